## Lines of a debrief: what took points, and what gave some.

mark-lost = −{ NUMBER($points) }: { $what }
mark-nothing = Nothing to say: that is as it should be.
mark-not-looked-power = power not locked out and verified dead
mark-not-looked-pressure = { $zero } not seen before the rig went on
mark-charged-unsound = charged a system that was not sound
mark-hint = a hint
mark-named-wrong = named, and not so: { $causes }
mark-repaired-sound = sent to repair, and nothing leaked
mark-passed-unsound = passed, and it was not sound

mark-rig-given = You did not choose the rig on this job.
mark-rig-times = { $own } to the target with nothing wrong; with the best rig of the van { $best }
mark-rig-a = { $how ->
    [partly] Only partly: the system can be closed off from pump and hoses
   *[no] Not so: the system can be closed off from pump and hoses
}
mark-rig-b = { $how ->
    [partly] Only partly: the gauge sits on the system, away from the pump
   *[no] Not so: the gauge sits on the system, away from the pump
}
mark-rig-c = { $how ->
    [partly] Only partly: the gauge can be closed off before refrigerant comes
   *[no] Not so: the gauge can be closed off before refrigerant comes
}
mark-rig-d = { $how ->
    [partly] Only partly: every port without a core keeps a valve
   *[no] Not so: every port without a core keeps a valve
}

mark-never-isolated = Never isolated: there was no hold test to read.
mark-isolated-at = Isolated with { $worst } at the worst spot; the gauge read { $shown }
mark-isolated-unread = Isolated with { $worst } at the worst spot; no figure was read
mark-held = Held { $time } of the { $asked } that the standard asks
mark-ballast-left = The gas ballast stayed open to the end of the draw

mark-no-verdict = No verdict was called.
mark-right = Right: { $said }
mark-half = Half right: you said { $said }; it was: { $truth }
mark-wrong = Wrong: you said { $said }; it was: { $truth }
mark-named = { $hit } of { $all } faults named

mark-times = { $own }; an expert { $expert }
mark-broken-off = Broken off after { $time } without a verdict: nothing was saved.
