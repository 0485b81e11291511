/**
 * Folders that change without rest (a log, a browser's profile, a build) are looked at ever more rarely, so that
 * nobody's log file costs a core: exponential back-off, common practice. As soon as one pauses it is looked at, so that
 * the index is right two seconds after the last change, however long that went on.
 */

/** Without a pause of so long a folder does not rest. */
const PAUSE_MS = 2000;
/** Changing for so long without rest, it is looked at more rarely: a download or a build may take as long. */
const PATIENCE_MS = 30_000;
const FIRST_MS = 1000;
const MOST_MS = 60_000;
/** More folders than change at once anywhere; above it those at rest are dropped. */
const SWEPT_FROM = 2000;

interface Spell {
  since: number;
  last: number;
  /** How long it is left alone after a look; 0 while it is looked at as any other. */
  delay: number;
  /** Not to be looked at before. */
  until: number;
}

export class RestlessFolders {
  private readonly spells = new Map<number, Spell>();

  constructor(private readonly now: () => number = Date.now) {}

  /** Something changed in a folder: in how many milliseconds it may be looked at; 0 for at once. */
  changed(id: number): number {
    const now = this.now();
    const spell = this.spells.get(id);
    if (!spell || this.isAtRest(spell)) {
      if (this.spells.size > SWEPT_FROM) this.sweep();
      this.spells.set(id, { since: now, last: now, delay: 0, until: 0 });
      return 0;
    }
    spell.last = now;
    return this.left(id);
  }

  /** In how many milliseconds a folder is to be looked at, if nothing changes in it meanwhile. */
  left(id: number): number {
    const spell = this.spells.get(id);
    return spell ? Math.max(0, Math.min(spell.until, spell.last + PAUSE_MS) - this.now()) : 0;
  }

  /** A folder was looked at; where it does not rest, the next look is put off. */
  looked(id: number): void {
    const spell = this.spells.get(id);
    const now = this.now();
    if (!spell || this.isAtRest(spell) || now - spell.since < PATIENCE_MS) return;
    spell.delay = Math.min(MOST_MS, Math.max(FIRST_MS, spell.delay * 2));
    spell.until = now + spell.delay;
  }

  /** Somebody wants to see it: it is looked at at once, and as any other for a while. */
  calm(id: number): void {
    this.spells.delete(id);
  }

  /** Those that are looked at more rarely at present. */
  slowed(): number[] {
    return [...this.spells].flatMap(([id, spell]) => (spell.delay > 0 && !this.isAtRest(spell) ? [id] : []));
  }

  private isAtRest({ last, delay }: Spell): boolean {
    return this.now() - last > Math.max(PAUSE_MS, 2 * delay);
  }

  private sweep(): void {
    for (const [id, spell] of this.spells) if (this.isAtRest(spell)) this.spells.delete(id);
  }
}
