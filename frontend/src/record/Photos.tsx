import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Camera } from "lucide-react";
import { useRef, useState } from "react";

import { ApiError, type PhotoOut } from "../api/client";
import { commands, hrefs } from "../api/commands";
import { options, refresh } from "../api/options";
import { stamp } from "../lib/format";
import { shrink } from "../lib/shrink";
import { Button } from "../ui/Button";
import { TextField } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { Fault } from "../ui/Sheet";
import { Tick } from "../ui/Tick";
import { Waits } from "../ui/Waits";

/** Pictures of one thing of a job: taken with the device's camera or from a file, shown small, looked at large. In a list the button is `small`. */
export function Photos({ jobKey, about, of, open = true, small = false }: { jobKey: string; about: string; of: string; open?: boolean; small?: boolean }) {
  const client = useQueryClient();
  const all = useQuery(options.photos(jobKey));
  const input = useRef<HTMLInputElement>(null);
  const [chosen, setChosen] = useState<File | null>(null);
  const seen = (all.data ?? []).filter((p) => p.about === about);
  return (
    <div role="group" aria-label={`Photos of ${of}`} className="flex flex-wrap items-center gap-2">
      {all.isPending && <Waits />}
      {seen.map((p) => (
        <Thumb key={p.sha256} jobKey={jobKey} photo={p} of={of} open={open} />
      ))}
      {open && (
        <Button kind="quiet" aria-label={`Photo of ${of}`} className={small ? "min-w-12 px-2!" : ""} onClick={() => input.current?.click()}>
          <Camera size={20} aria-hidden className={small ? "inline" : "mr-2 inline"} />
          {!small && `Photo of ${of}`}
        </Button>
      )}
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        capture="environment"
        aria-label={`Picture of ${of}`}
        hidden
        onChange={(e) => {
          setChosen(e.target.files?.[0] ?? null);
          e.target.value = "";
        }}
      />
      <Modal open={chosen !== null} onClose={() => setChosen(null)} title={`Photo of ${of}`}>
        {chosen && (
          <Keep
            jobKey={jobKey}
            about={about}
            file={chosen}
            onDone={() => {
              setChosen(null);
              refresh(client, ["photos", "seal"], jobKey);
            }}
          />
        )}
      </Modal>
    </div>
  );
}

function Keep({ jobKey, about, file, onDone }: { jobKey: string; about: string; file: File; onDone: () => void }) {
  const [caption, setCaption] = useState("");
  const [place, setPlace] = useState(false);
  const keep = useMutation({
    // With its place it goes as it is: what is drawn anew on the device has none.
    mutationFn: async () => commands.addPhoto(jobKey, place ? file : await shrink(file).catch(() => file), about, caption, place),
    onSuccess: onDone,
  });
  const fault = keep.error instanceof ApiError ? keep.error.problem : keep.error ? { title: "Not kept", detail: "No signal. Keep the picture on the device and add it later." } : null;
  return (
    <div className="grid gap-3">
      <TextField label="What it shows" value={caption} onChange={setCaption} />
      <Tick label="Keep in it where it was taken" on={place} onChange={setPlace} />
      {fault && <Fault title={fault.title} detail={fault.detail} />}
      <Button kind="solid" disabled={keep.isPending} onClick={() => keep.mutate()}>
        {keep.isPending ? "Keeping it…" : "Keep it"}
      </Button>
    </div>
  );
}

function Thumb({ jobKey, photo, of, open }: { jobKey: string; photo: PhotoOut; of: string; open: boolean }) {
  const client = useQueryClient();
  const [large, setLarge] = useState(false);
  const drop = useMutation({
    mutationFn: () => commands.dropPhoto(jobKey, photo.sha256),
    onSuccess: () => {
      setLarge(false);
      refresh(client, ["photos", "seal"], jobKey);
    },
  });
  const name = photo.caption || of;
  return (
    <>
      <button type="button" onClick={() => setLarge(true)} className="h-16 w-16 overflow-hidden rounded-[5px] border-2 border-strong">
        <img src={hrefs.photo(jobKey, photo.sha256)} alt={name} loading="lazy" className="h-full w-full object-cover" />
      </button>
      <Modal open={large} onClose={() => setLarge(false)} title={name} wide>
        <img src={hrefs.photo(jobKey, photo.sha256)} alt={name} width={photo.width} height={photo.height} className="max-h-[60vh] w-full object-contain" />
        <p className="mt-2 text-soft">
          <span className="figure">{stamp(photo.at)}</span>
          {photo.hand && `, ${photo.hand}`}
        </p>
        {open && (
          <Button className="mt-3" disabled={drop.isPending} onClick={() => drop.mutate()}>
            Remove this photo
          </Button>
        )}
      </Modal>
    </>
  );
}
