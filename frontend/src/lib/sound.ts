let context: AudioContext | null = null;
let ringing = 0;
const LASTS_MS = 800;

/**
 * Browsers let a page sound only once a hand has touched it: the first touch opens the way. What stays open without
 * sounding would keep the device computing silence, so it rests until something rings.
 */
export function allowSound(): void {
  const kinds = ["pointerdown", "keydown"] as const;
  const open = () => {
    for (const kind of kinds) window.removeEventListener(kind, open);
    const made = new AudioContext();
    context = made;
    void made.resume().then(() => made.suspend());
  };
  for (const kind of kinds) window.addEventListener(kind, open, { passive: true });
}

/** Two short tones, heard over a pump: nothing before the first touch of the page. */
export async function sound(): Promise<void> {
  const here = context;
  if (here === null) return;
  await here.resume();
  ring(here);
  ringing += 1;
  await new Promise((done) => setTimeout(done, LASTS_MS));
  ringing -= 1;
  if (ringing === 0) await here.suspend();
}

function ring(here: AudioContext): void {
  const begin = here.currentTime;
  for (const [at, pitch] of [
    [0, 1480],
    [0.22, 1175],
  ] as const) {
    const tone = here.createOscillator();
    const level = here.createGain();
    tone.type = "square";
    tone.frequency.value = pitch;
    level.gain.setValueAtTime(0.0001, begin + at);
    level.gain.exponentialRampToValueAtTime(0.25, begin + at + 0.02);
    level.gain.exponentialRampToValueAtTime(0.0001, begin + at + 0.18);
    tone.connect(level).connect(here.destination);
    tone.start(begin + at);
    tone.stop(begin + at + 0.2);
  }
}
