/** Files that are still being fetched, known by the names that programs give them meanwhile. */

/** Endings of what is not whole yet (common practice). */
const UNFINISHED = ['part', 'partial', 'crdownload', 'download', 'filepart', 'aria2'];

const endsUnfinished = (name: string) => UNFINISHED.some((ending) => name.toLowerCase().endsWith(`.${ending}`));

/**
 * Whether a name in a folder is that of a download under way: it ends so, or one beside it is called the same and ends
 * so (a program keeps the name free by an empty file).
 *
 * @param names All names in the folder.
 * @example isUnderWay('chart.pdf', new Set(['chart.pdf', 'chart.pdf.part'])) // true
 */
export function isUnderWay(name: string, names: ReadonlySet<string>): boolean {
  return endsUnfinished(name) || UNFINISHED.some((ending) => names.has(`${name}.${ending}`));
}
