import { useState } from "react";
import { Link, useNavigate } from "react-router";

import type { ExamOut } from "../api/client";
import { commands, hrefs } from "../api/commands";
import { useExams } from "../api/practice";
import { stamp } from "../lib/format";
import { Button } from "../ui/Button";
import { Segments } from "../ui/Segments";
import { Sheet, Tag } from "../ui/Sheet";

const LEVELS = [1, 2, 3, 4, 5].map((n) => ({ value: String(n), label: String(n) }));

/** Unseen jobs without help, and the certificate of who passes them. */
export function Exams({ onFault }: { onFault: (e: unknown) => void }) {
  const found = useExams();
  const navigate = useNavigate();
  const [level, setLevel] = useState("2");
  const exams = found.data ?? [];
  const open = exams.find((e) => e.state === "open");
  const goOn = (key: string) => commands.examJob(key).then((r) => navigate(`/practice/${r.key}`), onFault);
  return (
    <Sheet title="Examination" fold="practice-exam">
      <div className="grid gap-3">
        {open ? (
          <Open exam={open} onGo={() => void goOn(open.key)} />
        ) : (
          <>
            <p className="text-soft">Three unseen jobs, one after the other. No hints, no job twice, no step against a stop; 75 points in the mean, and 60 in each.</p>
            <Segments label="How hard" value={level} onChange={setLevel} options={LEVELS} />
            <Button onClick={() => commands.beginExam(Number(level)).then((e) => goOn(e.key), onFault)}>Begin an examination</Button>
          </>
        )}
        <ul className="list-none p-0">
          {exams
            .filter((e) => e.state !== "open")
            .slice(0, 5)
            .map((e) => (
              <Over key={e.key} exam={e} />
            ))}
        </ul>
      </div>
    </Sheet>
  );
}

function Open({ exam, onGo }: { exam: ExamOut; onGo: () => void }) {
  const now = exam.jobs.find((j) => !j.ended);
  return (
    <>
      <p>
        Level <span className="figure">{exam.level}</span>: <span className="figure">{exam.jobs.filter((j) => j.ended).length}</span> of <span className="figure">{exam.of}</span> done.
      </p>
      {now ? (
        <Link to={`/practice/${now.run}`} className="casual inline-flex min-h-12 items-center justify-center rounded-[5px] border-2 border-ink px-4 font-bold">
          Go on: {now.title}
        </Link>
      ) : (
        <Button kind="solid" onClick={onGo}>
          The next job
        </Button>
      )}
    </>
  );
}

function Over({ exam }: { exam: ExamOut }) {
  const passed = exam.state === "passed";
  return (
    <li className="flex flex-wrap items-center justify-between gap-2 border-b border-rule py-1 last:border-b-0">
      <span>
        Level <span className="figure">{exam.level}</span>, {stamp(exam.began_at)} <Tag tone={passed ? "pass" : "stop"}>{passed ? "passed" : "not passed"}</Tag>
      </span>
      {passed && (
        <span className="flex gap-3">
          <a href={hrefs.certificate(exam.key, "pdf")} className="inline-flex min-h-12 items-center underline">
            Certificate
          </a>
          <a href={hrefs.certificate(exam.key, "json")} download className="inline-flex min-h-12 items-center underline">
            as a file
          </a>
        </span>
      )}
    </li>
  );
}
