import { describe, expect, it } from '@jest/globals';
import { decide, sameContent, type Candidate, type Identity, type Observation } from './index.js';

const file = (path: string, more: Partial<Identity> = {}): Identity => ({
  type: 'file',
  path,
  inode: 10,
  birth: 1000,
  size: 50,
  mtime: 2000,
  fingerprint: 'f',
  ...more,
});
const at = (identity: Identity, firstSeen = 9000, placeId = 1): Candidate => ({
  identity,
  firstSeen,
  placeId,
  originalId: identity.inode,
});
const seen = (more: Partial<Observation>): Observation => ({
  place: 'here',
  atPath: { seen: 'nothing' },
  sameInode: [],
  sameSize: [],
  lastSeen: 5000,
  ...more,
});
const original = file('a/one.txt');

/** The decision table of the design, row by row. */
describe('the decision table', () => {
  it('same path, same inode: ready', () => {
    const now = file('a/one.txt', { size: 60, mtime: 3000 });
    expect(decide(original, seen({ atPath: { seen: 'entry', identity: now } }))).toEqual({
      state: 'ready',
      identity: now,
      evidence: 'same-path-same-inode',
    });
  });
  it('same path, new inode: saved over, even where the old inode lives on as a backup', () => {
    const now = file('a/one.txt', { inode: 11, birth: 4000 });
    const backup = at(file('a/one.txt.bak'));
    expect(decide(original, seen({ atPath: { seen: 'entry', identity: now }, sameInode: [backup] }))).toMatchObject({
      state: 'saved-over',
      identity: now,
    });
  });
  it('two known files exchanged their paths: the swap is proven and followed', () => {
    const now = file('a/one.txt', { inode: 11, birth: 1500 });
    const ours = at(file('b/two.txt'));
    expect(
      decide(original, seen({ atPath: { seen: 'entry', identity: now }, sameInode: [ours], cameFrom: ['b/two.txt'] })),
    ).toMatchObject({ state: 'followed', to: ours, evidence: 'swap' });
  });
  it('ours went on, and a file known from another path stands in its place: followed; a new one saved there stays', () => {
    const ours = at(file('b/two.txt'));
    const observation = seen({
      atPath: { seen: 'entry', identity: file('a/one.txt', { inode: 11, birth: 1500 }) },
      sameInode: [ours],
    });
    expect(decide(original, { ...observation, cameFrom: ['x'] })).toMatchObject({ state: 'followed', to: ours });
    expect(decide(original, { ...observation, cameFrom: [] }).state).toBe('saved-over');
  });
  it('ours went on, and what stands in its place was born before ours was seen there: it came, and was not saved there', () => {
    const ours = at(file('b/two.txt'));
    const observation = seen({
      atPath: { seen: 'entry', identity: file('a/one.txt', { inode: 11, birth: 1500 }) },
      sameInode: [ours],
    });
    expect(decide(original, { ...observation, stoodSince: 2000 })).toMatchObject({
      state: 'followed',
      evidence: 'swap',
    });
    expect(decide(original, { ...observation, stoodSince: 1550 }).state).toBe('saved-over');
    expect(decide(original, { ...observation, stoodSince: 1400 }).state).toBe('saved-over');
    // where ours is nowhere, what stands there is all there is; where it is kept as a backup, it was saved
    expect(decide(original, { ...observation, stoodSince: 2000, sameInode: [] }).state).toBe('saved-over');
    const backup = at(file('a/one.txt.bak'));
    expect(decide(original, { ...observation, stoodSince: 2000, sameInode: [backup] }).state).toBe('saved-over');
  });
  it('another’s file at the path: ours is followed, or asked for, never opened as saved over', () => {
    const observation = seen({
      atPath: { seen: 'entry', identity: file('a/one.txt', { inode: 11, birth: 1500, size: 70 }) },
      isAnothers: true,
    });
    expect(decide(original, observation)).toEqual({ state: 'unsure', candidates: [], reason: 'anothers-at-its-path' });
    const ours = at(file('b/two.txt'));
    expect(decide(original, { ...observation, sameInode: [ours] })).toMatchObject({ state: 'followed', to: ours });
    const backup = at(file('b/two.txt.old'));
    expect(decide(original, { ...observation, sameInode: [backup] })).toMatchObject({ reason: 'named-like-a-backup' });
    const carried = at(file('x/one.txt', { inode: 77 }), 9000, 2);
    expect(decide(original, { ...observation, sameSize: [carried] })).toMatchObject({ state: 'followed', to: carried });
  });
  it('saved by way of a temporary file that was known, the old one kept under a backup’s name: stays', () => {
    const observation = seen({
      atPath: { seen: 'entry', identity: file('a/one.txt', { inode: 11, birth: 1500 }) },
      cameFrom: ['a/one.txt.tmp'],
    });
    for (const name of ['a/one.txt~', 'a/one.txt.bak', 'a/one.orig', 'old/one.old', 'a/one copy.txt'])
      expect(decide(original, { ...observation, sameInode: [at(file(name))] }).state).toBe('saved-over');
  });
  it('an exchange without birth times is not proven', () => {
    const plain = file('a/one.txt', { birth: 0 });
    const now = file('a/one.txt', { inode: 11, birth: 0 });
    const there = at(file('b/two.txt', { birth: 0 }));
    expect(
      decide(plain, seen({ atPath: { seen: 'entry', identity: now }, sameInode: [there], cameFrom: ['b/two.txt'] }))
        .state,
    ).toBe('saved-over');
  });
  it('path gone, same inode and birth elsewhere: followed, even if edited since', () => {
    const there = at(file('b/new name.txt', { size: 999, fingerprint: 'other' }));
    expect(decide(original, seen({ sameInode: [there] }))).toMatchObject({
      state: 'followed',
      to: there,
      evidence: 'same-inode-and-birth',
    });
  });
  it('path gone, same inode under a backup’s name: a question; what has its name in the moved folder goes before', () => {
    const backup = at(file('z/one.txt.bak'));
    expect(decide(original, seen({ sameInode: [backup] }))).toEqual({
      state: 'unsure',
      candidates: [backup],
      reason: 'named-like-a-backup',
    });
    const namesake = at(file('z/one.txt', { inode: 12, birth: 4000 }));
    for (const there of [backup, at(file('z/renamed.txt'))])
      expect(decide(original, seen({ sameInode: [there], namesake }))).toMatchObject({
        state: 'followed',
        to: namesake,
        evidence: 'same-name-in-moved-folder',
      });
    // born before ours was seen there it was not saved there: it came, and ours went on
    const went = at(file('y/went on.txt'));
    for (const [stoodSince, to] of [
      [3000, namesake],
      [5000, went],
    ] as const)
      expect(decide(original, seen({ sameInode: [went], namesake, stoodSince }))).toMatchObject({ to });
    const ofOtherType = at(file('z/one.txt', { type: 'folder' }));
    expect(decide(original, seen({ sameInode: [backup], namesake: ofOtherType })).state).toBe('unsure');
  });
  it('without birth times: the same inode needs the same fingerprint or the same name', () => {
    const plain = { ...original, birth: 0 };
    const byContent = at(file('b/x.txt', { birth: 0 }));
    const byName = at(file('b/one.txt', { birth: 0, fingerprint: 'g' }));
    const neither = at(file('b/x.txt', { birth: 0, fingerprint: 'g' }));
    expect(decide(plain, seen({ sameInode: [byContent] }))).toMatchObject({ evidence: 'same-inode-and-fingerprint' });
    expect(decide(plain, seen({ sameInode: [byName] }))).toMatchObject({ evidence: 'same-inode-and-name' });
    expect(decide(plain, seen({ sameInode: [neither] })).state).toBe('lost');
  });
  it('an inode number used again by another file is not followed', () => {
    expect(decide(original, seen({ sameInode: [at(file('b/new.txt', { birth: 8000 }))] })).state).toBe('lost');
    expect(decide(original, seen({ sameInode: [at(file('b', { type: 'folder' }))] })).state).toBe('lost');
  });
  it('path gone, one file of the same content that appeared since: followed, also in another place', () => {
    const there = at(file('x/one.txt', { inode: 77, birth: 6000 }), 6000, 2);
    expect(decide(original, seen({ sameSize: [there] }))).toMatchObject({
      state: 'followed',
      to: there,
      evidence: 'same-digest',
    });
  });
  it('a copy made before the loss is not where it went', () => {
    const copy = at(file('x/two.txt', { inode: 77, birth: 3000 }), 3000);
    expect(decide(original, seen({ sameSize: [copy], lastSeen: 50_000 }))).toMatchObject({
      state: 'unsure',
      candidates: [copy],
    });
  });
  it('a copy made seconds before the loss is where it went; made earlier, or as a backup, it is a question', () => {
    const copy = (path: string, firstSeen: number) => at(file(path, { inode: 77, birth: firstSeen }), firstSeen);
    const lastSeen = 500_000;
    const state = (c: Candidate, recorded = original) => decide(recorded, seen({ sameSize: [c], lastSeen })).state;
    expect(state(copy('x/one.txt', lastSeen - 4000))).toBe('followed');
    expect(state(copy('x/one.txt', lastSeen - 60_000))).toBe('unsure');
    expect(state(copy('x/one.txt.bak', lastSeen + 10))).toBe('unsure');
    // a gigabyte takes its time
    const large = { size: 1_000_000_000, digest: 'd' };
    const far = at(file('x/one.txt', { ...large, inode: 77 }), lastSeen - 60_000);
    expect(state(far, file('a/one.txt', large))).toBe('followed');
  });
  it('several alike, one of them new and of its name: that one', () => {
    const fresh = at(file('x/one.txt', { inode: 77 }), 9000);
    const old = at(file('x/other.txt', { inode: 78 }), 100);
    expect(decide(original, seen({ sameSize: [old, fresh], lastSeen: 8000 }))).toMatchObject({ to: fresh });
    const renamed = at(file('x/two.txt', { inode: 77 }), 9000);
    expect(decide(original, seen({ sameSize: [old, renamed], lastSeen: 8000 })).state).toBe('unsure');
  });
  it('with a twin in the catalogue it is a question which of them went where', () => {
    const there = at(file('x/one.txt', { inode: 77 }));
    expect(decide(original, seen({ sameSize: [there], hasTwin: true }))).toMatchObject({ state: 'unsure' });
    const anothers = {
      atPath: { seen: 'entry', identity: file('a/one.txt', { inode: 11 }) },
      isAnothers: true,
    } as const;
    expect(decide(original, seen({ ...anothers, sameSize: [there], hasTwin: true }))).toMatchObject({
      state: 'unsure',
    });
  });
  it('what another shortcut is known by is not where it went', () => {
    const there = { ...at(file('x/one.txt', { inode: 77 })), isAnothers: true };
    expect(decide(original, seen({ sameSize: [there] }))).toMatchObject({ state: 'unsure', candidates: [there] });
  });
  it('several alike: unsure', () => {
    const two = [at(file('x/1', { inode: 77 })), at(file('x/2', { inode: 78 }))];
    expect(decide(original, seen({ sameSize: two }))).toMatchObject({
      state: 'unsure',
      reason: 'several-alike',
      candidates: two,
    });
  });
  it('an empty file’s content says nothing', () => {
    const empty = file('a/one.txt', { size: 0, fingerprint: 'e' });
    expect(decide(empty, seen({ sameSize: [at(file('x', { inode: 5, size: 0, fingerprint: 'e' }))] })).state).toBe(
      'lost',
    );
  });
  it('replaced by a folder or a link: unsure', () => {
    for (const type of ['folder', 'link'] as const)
      expect(
        decide(original, seen({ atPath: { seen: 'entry', identity: file('a/one.txt', { type, inode: 12 }) } })),
      ).toMatchObject({ state: 'unsure', reason: 'replaced-by-other-type' });
  });
  it('a change of case only: followed', () => {
    expect(decide(original, seen({ sameInode: [at(file('a/ONE.txt'))] }))).toMatchObject({ state: 'followed' });
  });
  it('hard links: the recorded name first, any name of the inode else', () => {
    const links = [at(file('z/other.txt')), at(file('b/other.txt'))];
    expect(decide(original, seen({ atPath: { seen: 'entry', identity: original }, sameInode: links })).state).toBe(
      'ready',
    );
    expect(decide(original, seen({ sameInode: links }))).toMatchObject({ to: links[1] });
  });
  it('place not connected: away, never lost', () => {
    expect(decide(original, seen({ place: 'away' }))).toEqual({ state: 'away' });
  });
  it('permission denied: no access; a failing disk changes nothing', () => {
    expect(decide(original, seen({ atPath: { seen: 'denied' } }))).toEqual({ state: 'no-access' });
    expect(decide(original, seen({ atPath: { seen: 'failed', reason: 'EIO' } }))).toEqual({
      state: 'unchanged',
      reason: 'EIO',
    });
  });
  it('nothing anywhere: lost', () => {
    expect(decide(original, seen({}))).toEqual({ state: 'lost' });
  });
});

describe('same content', () => {
  it('needs the full digest where the fingerprint leaves out the middle', () => {
    const big = { size: 1_000_000 };
    expect(sameContent(file('a', big), file('b', big))).toBe(false);
    expect(sameContent(file('a', { ...big, digest: 'd' }), file('b', { ...big, digest: 'd' }))).toBe(true);
    expect(sameContent(file('a', { ...big, digest: 'd' }), file('b', { ...big, digest: 'e' }))).toBe(false);
    expect(sameContent(file('a'), file('b', { size: 51 }))).toBe(false);
  });
});
