/** Work that is wished for more often than it is to be done: at once after a rest, otherwise when the rest is over. */
export class Pace {
  private readonly last = new Map<string, number>();
  private readonly due = new Map<string, number>();

  /** Do it, but not twice within `every` ms; the latest wish under a name stands for those before. */
  wish(name: string, every: number, work: () => void): void {
    if (this.due.has(name)) return;
    const wait = Math.max(0, (this.last.get(name) ?? -Infinity) + every - Date.now());
    const run = () => {
      this.due.delete(name);
      this.last.set(name, Date.now());
      work();
    };
    this.due.set(name, window.setTimeout(run, wait));
  }

  stop(): void {
    this.due.forEach((timer) => window.clearTimeout(timer));
    this.due.clear();
  }
}
