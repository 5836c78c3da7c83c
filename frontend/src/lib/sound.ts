let context: AudioContext | null = null;

/** Browsers let a page sound only once a hand has touched it: the first touch opens the way. */
export function allowSound(): void {
  const open = () => {
    context ??= new AudioContext();
    void context.resume();
  };
  for (const kind of ["pointerdown", "keydown"]) window.addEventListener(kind, open, { passive: true });
}

/** Two short tones, heard over a pump: nothing before the first touch of the page. */
export function sound(): void {
  if (context?.state !== "running") return;
  const begin = context.currentTime;
  for (const [at, pitch] of [
    [0, 1480],
    [0.22, 1175],
  ] as const) {
    const tone = context.createOscillator();
    const level = context.createGain();
    tone.type = "square";
    tone.frequency.value = pitch;
    level.gain.setValueAtTime(0.0001, begin + at);
    level.gain.exponentialRampToValueAtTime(0.25, begin + at + 0.02);
    level.gain.exponentialRampToValueAtTime(0.0001, begin + at + 0.18);
    tone.connect(level).connect(context.destination);
    tone.start(begin + at);
    tone.stop(begin + at + 0.2);
  }
}
