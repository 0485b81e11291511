/** How often something was seen in each folder; what was never seen there takes no room. */
export class Counts<K extends string | number> {
  private readonly byKey = new Map<K, Map<number, number>>();

  add(key: K, folder: number, by: 1 | -1): void {
    let folders = this.byKey.get(key);
    if (!folders) this.byKey.set(key, (folders = new Map()));
    const count = (folders.get(folder) ?? 0) + by;
    if (count > 0) folders.set(folder, count);
    else if (folders.delete(folder) && folders.size === 0) this.byKey.delete(key);
  }

  in(key: K, folder: number): number {
    return this.byKey.get(key)?.get(folder) ?? 0;
  }

  /** Folder → count. */
  of(key: K): ReadonlyMap<number, number> | undefined {
    return this.byKey.get(key);
  }
}
