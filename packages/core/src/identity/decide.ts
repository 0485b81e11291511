/**
 * The decision table of docs/models.md 6 (our own; record linkage comes on top where it leaves a thing lost).
 * First rule: if a file stands at the recorded path, stay there, unless a swap is proven.
 */
import { nameOf } from '../paths/index.js';
import { isBackupName } from '../reconcile/index.js';
import type { Candidate, Decision, Identity, Observation } from './identity.js';

/** Same inode number, and nothing speaks against it being the same file. */
function sameFile(recorded: Identity, seen: Identity): boolean {
  if (recorded.inode !== seen.inode || recorded.type !== seen.type) return false;
  return recorded.birth === 0 || seen.birth === 0 || recorded.birth === seen.birth;
}

/** Content known on both sides and equal. The fingerprint of a short file covers the whole of it. */
export function sameContent(a: Identity, b: Identity): boolean {
  if (a.size !== b.size || a.type !== 'file' || b.type !== 'file') return false;
  if (a.digest !== undefined && b.digest !== undefined) return a.digest === b.digest;
  return a.size <= FULL_FINGERPRINT && a.fingerprint !== undefined && a.fingerprint === b.fingerprint;
}

/** Up to this size the fingerprint (first and last 64 KiB) covers every byte. */
export const FULL_FINGERPRINT = 131_072;

/** What appeared so shortly before something went may be where it went: it was copied, and then removed. */
const SECONDS_BEFORE_MS = 5000;
/** Bytes that a slow disk copies in a millisecond. */
const COPIED_A_MS = 10_000;

/** File systems date by a clock of their own, a tick behind. */
const CLOCKS_DIFFER_MS = 100;

const isKeptBeside = (recorded: Identity, there: Candidate) =>
  isBackupName(nameOf(there.identity.path), nameOf(recorded.path));

/** Pure; cost linear in the candidates. */
export function decide(recorded: Identity, seen: Observation): Decision {
  if (seen.place === 'away') return { state: 'away' };
  const { atPath } = seen;
  switch (atPath.seen) {
    case 'denied':
      return { state: 'no-access' };
    case 'failed':
      return { state: 'unchanged', reason: atPath.reason };
    case 'entry':
      return atRecordedPath(recorded, atPath.identity, seen);
    case 'nothing':
      return gone(recorded, seen);
  }
}

function atRecordedPath(recorded: Identity, now: Identity, seen: Observation): Decision {
  if (sameFile(recorded, now)) return { state: 'ready', identity: now, evidence: 'same-path-same-inode' };
  const elsewhere = seen.sameInode.find((c) => sameFile(recorded, c.identity) && recorded.birth !== 0);
  // ours went on, and a file known from another path stands in its place: they went round. One saved over it would be
  // new, or leave ours under a backup's name
  if (elsewhere && now.type === recorded.type) {
    const isBackup = isKeptBeside(recorded, elsewhere);
    if (isBackup && seen.isAnothers) return { state: 'unsure', candidates: [elsewhere], reason: 'named-like-a-backup' };
    if (!isBackup && ((seen.cameFrom ?? []).length > 0 || seen.isAnothers || stoodElsewhere(now, seen)))
      return { state: 'followed', to: elsewhere, evidence: 'swap' };
  }
  if (now.type !== recorded.type)
    return {
      state: 'unsure',
      candidates: seen.sameInode.filter((c) => sameFile(recorded, c.identity)),
      reason: 'replaced-by-other-type',
    };
  if (!seen.isAnothers) return { state: 'saved-over', identity: now, evidence: 'same-path-new-content' };
  const alike = contentsElsewhere(recorded, seen);
  return alike.length === 1
    ? { state: 'followed', to: alike[0]!, evidence: 'same-digest' }
    : { state: 'unsure', candidates: [], reason: 'anothers-at-its-path' };
}

/** Whether what stands there was born before ours was seen there: it was not saved there, it came. */
function stoodElsewhere(now: Identity, { stoodSince }: Observation): boolean {
  return now.birth !== 0 && stoodSince !== undefined && now.birth < stoodSince - CLOCKS_DIFFER_MS;
}

function gone(recorded: Identity, seen: Observation): Decision {
  const inode = seen.sameInode.filter((c) => sameFile(recorded, c.identity));
  // its folder moved, and a file of its name lies in that: saved over, had its folder stayed. One that was born before
  // ours was seen there came from elsewhere
  const { namesake } = seen;
  const isNamesake = namesake?.identity.type === recorded.type && !stoodElsewhere(namesake.identity, seen);
  const followedToName = { state: 'followed', to: namesake!, evidence: 'same-name-in-moved-folder' } as const;
  const dated = inode.filter((c) => recorded.birth !== 0 && c.identity.birth === recorded.birth);
  // several names of one inode are hard links to one file: the first in path order is as good as any
  if (dated.length > 0) {
    const to = first(dated);
    if (nameOf(to.identity.path) === nameOf(recorded.path))
      return { state: 'followed', to, evidence: 'same-inode-and-birth' };
    if (isNamesake) return followedToName;
    if (isKeptBeside(recorded, to)) return { state: 'unsure', candidates: dated, reason: 'named-like-a-backup' };
    return { state: 'followed', to, evidence: 'same-inode-and-birth' };
  }
  if (isNamesake) return followedToName;
  const byContent = inode.filter(
    (c) => recorded.fingerprint !== undefined && c.identity.fingerprint === recorded.fingerprint,
  );
  if (byContent.length > 0) return { state: 'followed', to: first(byContent), evidence: 'same-inode-and-fingerprint' };
  const byName = inode.filter((c) => nameOf(c.identity.path) === nameOf(recorded.path));
  if (byName.length > 0) return { state: 'followed', to: first(byName), evidence: 'same-inode-and-name' };
  // an empty file's content says nothing about which file it is
  const alike = recorded.size === 0 ? [] : seen.sameSize.filter((c) => sameContent(recorded, c.identity));
  const since = appearedSince(recorded, alike, seen);
  if (since.length === 1 && !isKeptBeside(recorded, since[0]!)) {
    const isOnly = alike.length === 1 || nameOf(since[0]!.identity.path) === nameOf(recorded.path);
    if (isOnly) return { state: 'followed', to: since[0]!, evidence: 'same-digest' };
  }
  if (alike.length > 0) return { state: 'unsure', candidates: alike, reason: 'several-alike' };
  return { state: 'lost' };
}

/** What may be where it went: a copy takes its time, and what it was made of goes when it is whole. */
function appearedSince(recorded: Identity, alike: readonly Candidate[], seen: Observation): Candidate[] {
  if (seen.hasTwin) return [];
  return alike.filter(
    (c) => !c.isAnothers && c.firstSeen > seen.lastSeen - SECONDS_BEFORE_MS - recorded.size / COPIED_A_MS,
  );
}

/** The only one with the same content, where it appeared since. */
function contentsElsewhere(recorded: Identity, seen: Observation): Candidate[] {
  const alike = recorded.size === 0 ? [] : seen.sameSize.filter((c) => sameContent(recorded, c.identity));
  return alike.length === 1 ? appearedSince(recorded, alike, seen) : [];
}

function first(candidates: Candidate[]): Candidate {
  return [...candidates].sort((a, b) => (a.identity.path < b.identity.path ? -1 : 1))[0]!;
}
