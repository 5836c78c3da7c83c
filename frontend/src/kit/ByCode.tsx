import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import type { KitCard } from "../api/client";
import { commands } from "../api/commands";
import { refresh } from "../api/options";
import { codeReader, hasCamera, type Look } from "../lib/qr";
import { Button } from "../ui/Button";
import { Fault, Sheet } from "../ui/Sheet";

/** Find a part by the code on its label: typed, or read by the camera. */
export function ByCode({ kit }: { kit: KitCard[] }) {
  const [code, setCode] = useState("");
  const [watching, setWatching] = useState(false);
  const find = useMutation({
    mutationFn: (text: string) => commands.findKit(text),
    onSuccess: (f) => {
      setWatching(false);
      const card = document.getElementById(`kit-${f.number}`);
      if (card instanceof HTMLDetailsElement) card.open = true;
      card?.scrollIntoView({ block: "center" });
    },
  });
  if (kit.length === 0) return null;
  return (
    <Sheet title="Find a part by its label" className="mb-4">
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (code.trim()) find.mutate(code);
        }}
      >
        <label className="min-w-0">
          <span className="mb-1 block text-soft">Code</span>
          <input value={code} onChange={(e) => setCode(e.target.value)} placeholder="RD-K7" className="figure min-h-12 w-40 rounded-[5px] border-2 border-strong bg-sheet px-3" />
        </label>
        <Button type="submit" kind="solid">
          Find
        </Button>
        {hasCamera() && <Button onClick={() => setWatching(!watching)}>{watching ? "Camera off" : "By camera"}</Button>}
        {find.data && (
          <p aria-live="polite" className="min-h-12 py-3">
            <b>{find.data.name}</b>, {find.data.kind}
          </p>
        )}
      </form>
      {watching && <Camera onCode={(text) => find.mutate(text)} />}
      {find.error && (
        <div className="mt-2">
          <Fault title="Not found" detail={find.error.message} />
        </div>
      )}
    </Sheet>
  );
}

function Camera({ onCode }: { onCode: (text: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [fault, setFault] = useState("");
  const tell = useRef(onCode);
  useEffect(() => {
    tell.current = onCode;
  });
  useEffect(() => {
    let stream: MediaStream | null = null;
    let timer = 0;
    let gone = false;
    const watch = async (look: Look) => {
      if (gone || !video.current) return;
      const found = await look(video.current).catch(() => null);
      if (found !== null) tell.current(found);
      else timer = window.setTimeout(() => void watch(look), 250);
    };
    navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } }).then(
      (s) => {
        stream = s;
        if (gone || !video.current) return s.getTracks().forEach((t) => t.stop());
        video.current.srcObject = s;
        Promise.all([codeReader(), video.current.play()]).then(
          ([look]) => watch(look),
          () => setFault("The reader of codes did not load. Type the code instead."),
        );
      },
      () => setFault("The camera was not given, or there is none. Type the code instead."),
    );
    return () => {
      gone = true;
      window.clearTimeout(timer);
      stream?.getTracks().forEach((t) => t.stop());
    };
  }, []);
  return fault ? <p className="mt-2 border-l-4 border-ochre pl-3">{fault}</p> : <video ref={video} muted playsInline className="mt-2 w-full max-w-sm rounded-[5px] border-2 border-ink" />;
}

const DONE = [
  { kind: "oil-change", label: "Oil changed", of: ["pump"] },
  { kind: "cleaning", label: "Cleaned", of: ["gauge", "hose", "tool", "manifold"] },
  { kind: "calibration", label: "Calibrated", of: ["gauge", "scale"] },
  { kind: "retired", label: "Retire it", of: [] as string[] },
];

/** What was done to a part, logged by hand. */
export function ByHand({ item }: { item: KitCard }) {
  const client = useQueryClient();
  const log = useMutation({
    mutationFn: (kind: string) => commands.logKit(item.id, kind),
    onSuccess: () => refresh(client, ["kit"]),
  });
  if (item.state === "retired") return null;
  return (
    <div className="mb-2 flex flex-wrap gap-2">
      {DONE.filter((d) => d.of.length === 0 || d.of.includes(item.kind)).map((d) => (
        <Button key={d.kind} kind="quiet" className="px-2!" disabled={log.isPending} onClick={() => log.mutate(d.kind)}>
          {d.label}
        </Button>
      ))}
      {log.error && <Fault title="Not logged" detail={log.error.message} />}
    </div>
  );
}
