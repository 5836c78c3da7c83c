import { Drawn } from "./Drawn";
import type { RigLineProps } from "./line";
import { Ribbon } from "./Ribbon";
import { Upright } from "./Upright";

/** Pump to system in one drawn line; a vertical run on a phone. */
export function RigLine({ slices, running = false, ...given }: RigLineProps) {
  const props = running ? { ...given, plan: { ...given.plan, drawing: given.plan.run_drawing } } : given;
  return (
    <>
      <div className="hidden overflow-x-auto md:block">
        <Drawn {...props} />
      </div>
      <div className="md:hidden">
        <Upright {...props} />
      </div>
      <Ribbon plan={props.plan} slices={slices} />
    </>
  );
}
