/** Who follows what, and in which order. */
import 'reflect-metadata';
import { describe, expect, it } from '@jest/globals';
import type { Type } from '@nestjs/common';
import { AppModule } from '../app.module.js';
import { PIPELINE } from './pipeline.js';

/** Every provider of every module, by its class. */
function providers(module: unknown, seen = new Set<unknown>()): Type[] {
  if (typeof module !== 'function' || seen.has(module)) return [];
  seen.add(module);
  const of = (what: string) => (Reflect.getMetadata(what, module) ?? []) as unknown[];
  return [
    ...of('providers').filter((p): p is Type => typeof p === 'function'),
    ...of('imports').flatMap((imported) => providers(imported, seen)),
  ];
}

/** The method by which each list is called. */
const METHODS = {
  withinAct: 'withinAct',
  afterAct: 'afterAct',
  beforeScan: 'beforeScan',
  afterDisk: 'afterDisk',
  afterLook: 'rootGone',
  afterIndex: 'afterMoved',
  afterPrograms: 'afterPrograms',
  afterTold: 'afterTold',
  start: 'start',
} satisfies Record<keyof typeof PIPELINE, string>;

const names = (list: readonly Type<unknown>[]) => list.map((type) => type.name.replace(/Service$/, ''));

/** In this order, others may stand between. */
function expectOrder(list: readonly Type<unknown>[], ...wanted: string[]): void {
  expect(names(list).filter((name) => wanted.includes(name))).toEqual(wanted);
}

describe('the pipeline', () => {
  const all = providers(AppModule);

  it('knows the services', () => expect(all.length).toBeGreaterThan(40));

  it.each(Object.entries(METHODS))('names once everybody who has the method of %s', (list, method) => {
    const who = all.filter((type) => method in (type.prototype as object));
    const named = names(PIPELINE[list as keyof typeof PIPELINE]);
    expect([...named].sort()).toEqual(names(who).sort());
    expect(new Set(named).size).toBe(named.length);
  });

  it('after a change on disk: index, shortcuts, links, and what counts on them', () => {
    expectOrder(PIPELINE.afterDisk, 'MemoryIndex', 'Filing', 'Identity', 'Links', 'SearchNews', 'CheckUp');
  });

  it('after an act: settings first, since others read them; links last, since they show all the rest', () => {
    expectOrder(PIPELINE.afterAct, 'Settings', 'Plan', 'MemoryIndex', 'Finder', 'SearchNews', 'Links');
    expect(names(PIPELINE.afterAct).at(-1)).toBe('Links');
  });

  it('within an act: files last, since they cannot be rolled back', () => {
    expect(names(PIPELINE.withinAct).slice(-2)).toEqual(['Associations', 'Filing']);
  });

  it('at the start: searches before the first look at a place, links and the seed after all they need', () => {
    expectOrder(PIPELINE.start, 'SearchNews', 'Places', 'MemoryIndex', 'Filing', 'Identity', 'Links', 'Seed');
  });
});
