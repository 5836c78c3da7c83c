import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { ApiError } from "../api/client";
import { commands, hrefs } from "../api/commands";
import { useUnits } from "../lib/units";
import { Button, FileLink } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { Fault } from "../ui/Sheet";

/** Everything out as one file, and back again: putting back is asked for twice, as it replaces what is here. */
export function Backup() {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const [fault, setFault] = useState<ApiError | null>(null);
  const u = useUnits();
  const [done, setDone] = useState("");
  // Sheets in it cannot be read, and all else can.
  const partly = fault?.status === 409;
  const put = () => {
    if (!file) return undefined;
    return commands.restore(file, partly).then(
      (r) => {
        setFile(null);
        setDone(`${r.jobs} jobs and ${u.whole(r.readings)} readings are back.`);
        void client.invalidateQueries();
      },
      (e: unknown) => e instanceof ApiError && setFault(e),
    );
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <FileLink href={hrefs.backup}>
        Back up everything
      </FileLink>
      <input
        ref={input}
        type="file"
        hidden
        aria-label="A backup to put back"
        onChange={(e) => {
          setFault(null);
          setDone("");
          setFile(e.target.files?.[0] ?? null);
          e.target.value = "";
        }}
      />
      <Button kind="quiet" onClick={() => input.current?.click()}>
        Restore a backup
      </Button>
      {done && <p aria-live="polite">{done}</p>}
      <Modal open={file !== null} onClose={() => setFile(null)} title="Replace everything here with this backup?">
        <p>
          <b>{file?.name}</b>. All jobs, readings and kit that are here now give way to it; a copy of them is kept beside the database.
        </p>
        {fault && (
          <div className="mt-3">
            <Fault title={fault.problem.title} detail={fault.problem.detail} />
          </div>
        )}
        <div className="mt-4 flex gap-2">
          <Button kind="stop" onClick={put}>
            {partly ? "Restore it all the same" : "Restore it"}
          </Button>
          <Button onClick={() => setFile(null)}>Cancel</Button>
        </div>
      </Modal>
    </div>
  );
}
