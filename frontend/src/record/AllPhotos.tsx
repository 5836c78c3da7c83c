import { useQuery } from "@tanstack/react-query";

import { options } from "../api/options";
import { Waits } from "../ui/Waits";
import { Photos } from "./Photos";

const USUAL: Record<string, string> = { nameplate: "the nameplate", oil: "the oil glass", "hold-end": "the gauge at the end of the hold", rig: "the rig", other: "something else" };

/** What a picture is about, in words. */
export function aboutWords(about: string): string {
  const [kind, what = ""] = about.split(":");
  return USUAL[about] ?? `${kind === "check" ? "the check" : kind === "port" ? "the port" : "the step"} “${what.replace(/-/g, " ")}”`;
}

/** All pictures of a job by what they are about; of what belongs to no check or step, new ones can be taken here. */
export function AllPhotos({ jobKey, open }: { jobKey: string; open: boolean }) {
  const all = useQuery(options.photos(jobKey));
  if (all.isPending) return <Waits />;
  const taken = new Set((all.data ?? []).map((p) => p.about).filter((a) => !a.startsWith("visit:")));
  const shown = [...new Set([...(open ? ["rig", "other"] : []), ...taken])];
  if (shown.length === 0) return <p className="text-soft">None were taken.</p>;
  return (
    <div className="grid gap-3">
      {shown.map((about) => (
        <Photos key={about} jobKey={jobKey} about={about} of={aboutWords(about)} open={open} />
      ))}
    </div>
  );
}
