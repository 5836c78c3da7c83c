import { Share2 } from "lucide-react";
import { useState } from "react";

import { hrefs } from "../api/commands";
import { toast } from "../lib/toasts";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";

/** A job for somebody else: its address for who works with this server, its file for who does not. */
export function Share({ jobKey, title }: { jobKey: string; title: string }) {
  const [open, setOpen] = useState(false);
  const address = `${window.location.origin}/jobs/${jobKey}`;
  const share = async () => {
    try {
      if ("share" in navigator) await navigator.share({ title, url: address });
      else await copy(address);
      setOpen(false);
    } catch {
      // Thought better of, or not allowed: the address stands there to be copied by hand.
    }
  };
  return (
    <>
      <Button kind="quiet" className="flex items-center gap-1 px-2 font-normal" onClick={() => setOpen(true)}>
        <Share2 size={18} aria-hidden /> Share
      </Button>
      <Modal open={open} onClose={() => setOpen(false)} title="Share this job">
        <p className="mb-2 text-soft">By its address, to who works with this server:</p>
        <p className="figure mb-2 border-l-4 border-strong pl-3 break-all select-all">{address}</p>
        <Button kind="solid" onClick={() => void share()}>
          {"share" in navigator ? "Send the address" : "Copy the address"}
        </Button>
        <p className="mt-5 mb-2 text-soft">As a file, to who does not: it opens in any Rough Draw, with its readings.</p>
        <a href={hrefs.jobFile(jobKey, "job.json")} download className="casual inline-flex min-h-12 items-center rounded-[5px] border-2 border-ink px-4 font-bold hover:bg-green-wash">
          The job as a file
        </a>
      </Modal>
    </>
  );
}

async function copy(text: string): Promise<void> {
  await navigator.clipboard.writeText(text);
  toast("The address is copied");
}
