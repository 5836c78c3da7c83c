## What is wrong with a sheet, a rig or an entry, and what to do.

wrong-same-id = Two { $what } have the id { $id }: give each its own.
wrong-what-parts = parts
wrong-what-sections = sections
wrong-what-links = connections
wrong-what-ports = ports
wrong-alarm-figure = This alarm needs { $field }.
wrong-skip-reason = A skipped check needs its reason.
wrong-v1-objects = A sheet of version 1 has scope and rig as objects.
wrong-v1-list = { $place } is not a list.
wrong-v1-object = { $place } is not an object.
wrong-v1-way = A way of version 1 is an object with a hose.
wrong-v1-core-out = The core at the { $port } port is out, but there is no core tool to put it back.
wrong-v1-two-ways = A rig of version 1 has two ways at most.
wrong-v1-system = No kind of system { $kind } in version 1.
wrong-hose-size = No hose of size { $size }: choose one of { $known }.
wrong-manifold = No manifold { $body }: choose one of { $known }.
wrong-manifold-port = This manifold has no { $port } port.
wrong-tool-bore = No core tool with a bore of { $size }: choose one of { $known }.
wrong-gauge-class = No class of gauge { $make }: choose one of { $known }.
wrong-no-pump = The rig has no pump: add one.
wrong-two-pumps = The rig has two pumps: take one off.
wrong-part-on-nothing = { CAP($part) } is connected to { $on }, which is not in the rig: put it elsewhere.
wrong-pump-first = The pump is where the rig starts: it cannot be connected behind another part.
wrong-no-outlet = { CAP($on) } has no outlet { $at } for the { $part }; its outlets: { $known }.
wrong-same-outlet = { CAP($one) } and { $two } are on the same outlet { $at } of the { $on }.
wrong-part-loose = { CAP($part) } is not connected to anything: connect it to a part or a port.
wrong-port-taken = { CAP($one) } and { $two } are both on the { $port } port: it takes one.
wrong-not-on-port = A { $part } cannot go straight on a service port: put a hose between.
wrong-circle = { CAP($part) } leads back to itself in a circle: open it somewhere.
wrong-tube-size = No copper tube of size { $size }: choose one of { $known }.
wrong-needs-capacity = { CAP($section) }: enter its capacity or its volume, so that it can be sized.
wrong-needs-volume = { CAP($section) }: enter its volume.
wrong-refrigerant = No refrigerant { $name }: choose one of { $known }.
wrong-oil = No oil { $name }: choose one of { $known }.
wrong-coldest-too-warm = The coldest spot is far above the ambient: check the two temperatures.
wrong-link-joins-nothing = The { $link } joins to { $end }, which is no section: pick one, or remove it.
wrong-link-to-itself = The { $link } joins { $end } to itself.
wrong-port-nowhere = The { $port } is on { $section }, which is no section: pick one, or remove the port.
wrong-water-nowhere = Water is placed in { $section }, which is no section.
wrong-unknown = No unknown { $name }; there are { $known }.
wrong-deviate = An unknown is a normal deviate, from -4 to 4.
wrong-nothing-to-release = Nothing in this system keeps a charge to release: let the scenario end at the verdict.
wrong-no-such-link = { $name } is not a connection between sections that are evacuated; there are { $known }.
wrong-rig-apart = The rig cannot be put together. { $fault }
wrong-no-such-fault = There is no fault { $name } here; there are { $known }.
edit-nothing-behind = Nothing can be connected behind a { $part }.
edit-not-on-port = { CAP($part) } is not on a port.
edit-pump-first = The pump is where the rig starts: exchange it instead.
edit-tee-carries = The tee carries { $count } hoses: take one off first.
edit-no-manifold = The rig has no manifold.
edit-port-has-hose = A hose leads to the { $port } port already.
edit-no-part = The rig has no part { $part }.

dial-no-reading = { $text } is no dial reading: write it like 29.5 inHg, −14.2 psi, −1 bar, −0.1 MPa or −75 cmHg.
dial-other-unit = −{ $value } { $unit } cannot be: the least here is −{ $most } { $unit }. Taken as { $value } { $other }: is that right?
dial-too-deep = −{ $value } { $unit } cannot be: the least here is −{ $most } { $unit }. Taken as a full vacuum: check the elevation or barometer, or re-zero the dial.
dial-impossible = A dial vacuum of { $value } { $unit } cannot be: the most possible here is { $most } { $unit }. Check the elevation or barometer, or re-zero the dial.
dial-impossible-other = A dial vacuum of { $value } { $unit } cannot be: the most possible here is { $most } { $unit }. Did you mean { $value } { $other }?
edit-no-setup = There is no setup { $setup }.
edit-wrong-kind = { $item } is a { $kind }: it cannot take the place of { $part }.
edit-no-port = The system has no port { $port }.

import-when = { $asks ->
    [day] The table has times of day without a date: say which day it was, then import it.
   *[moment] The table only counts from its start: say when it began, then import it.
}
import-not-yet = The table begins at { $when }, which is still to come: look at the day and at the order of day and month.
import-undecided = { $asked } Say which it is, then take them
quick-undecided = { $asked } Say which it is under “What is known”
