/** Groups for a first board: what lies in one folder is of one task (common practice: folders are named by it). */
import type { Kind } from '../kinds/index.js';

export interface TaskThing {
  id: string;
  kind: Kind;
  /** The name of the folder it lies in; empty for a program or a web address. */
  folder: string;
}

export interface Task {
  name: string;
  ids: string[];
}

/** What is of no task, however the folders are called. */
const REST = 'rest';
/** A folder with fewer things than this is no task of its own. */
const LEAST = 2;

/**
 * Regions in the order in which their first things come: files by their folders, programs, folders, web addresses; what
 * is left last. No region is empty, each thing is in one. O(things).
 */
export function tasksOf(things: readonly TaskThing[]): Task[] {
  const inFolder = new Map<string, number>();
  const isFile = ({ kind, folder }: TaskThing) => kind !== 'folder' && kind !== 'program' && folder !== '';
  for (const thing of things) if (isFile(thing)) inFolder.set(thing.folder, (inFolder.get(thing.folder) ?? 0) + 1);
  const taskOf = (thing: TaskThing): [key: string, name: string] => {
    if (thing.kind === 'program') return ['program', 'Programs'];
    if (thing.kind === 'folder') return ['folder', 'Folders'];
    if (thing.folder === '') return ['web', 'Web'];
    return inFolder.get(thing.folder)! >= LEAST ? [`in ${thing.folder}`, thing.folder] : [REST, 'Anything'];
  };
  const tasks = new Map<string, Task>();
  for (const thing of things) {
    const [key, name] = taskOf(thing);
    const task = tasks.get(key) ?? { name, ids: [] };
    tasks.set(key, task);
    task.ids.push(thing.id);
  }
  const rest = tasks.get(REST);
  tasks.delete(REST);
  return [...tasks.values(), ...(rest ? [rest] : [])];
}
