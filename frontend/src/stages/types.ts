import type { Job, LiveOut, StageState } from "../api/client";
import type { Editor } from "../api/editor";

/** What every stage is given. */
export interface StageProps {
  jobKey: string;
  job: Job;
  editor: Editor;
  live: LiveOut | undefined;
  stages: StageState[];
}
