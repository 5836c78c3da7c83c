import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";

import { ApiError } from "../api/client";
import { commands, hrefs } from "../api/commands";
import { Button } from "../ui/Button";
import { Fault } from "../ui/Sheet";

const THERE = 409;

/** A job that cannot be opened; where one is there, what is stored of it can be taken out, or put back by one edit. */
export function Unopened({ jobKey, error }: { jobKey: string; error: Error }) {
  const client = useQueryClient();
  const back = useMutation({ mutationFn: () => commands.undoJob(jobKey), onSuccess: () => client.invalidateQueries() });
  return (
    <div className="mx-auto mt-12 grid max-w-lg justify-items-start gap-4">
      <Fault title="This job cannot be opened" detail={error.message} />
      {error instanceof ApiError && error.status === THERE && (
        <>
          <a href={hrefs.jobFile(jobKey, "job.json")} download className="inline-flex min-h-12 items-center font-bold underline">
            Take its file out as it is stored
          </a>
          <Button disabled={back.isPending} onClick={() => back.mutate()}>
            Put it back to before the last edit
          </Button>
          {back.error && <Fault title="Nothing was put back" detail={back.error.message} />}
        </>
      )}
      <Link to="/" className="inline-flex min-h-12 items-center font-bold underline">
        Back to the Yard
      </Link>
    </div>
  );
}
