/**
 * The decision table of models.md 6 (our own; record linkage comes on top where it leaves a thing lost).
 * First rule: if a file stands at the recorded path, stay there, unless a swap is proven.
 */
import { nameOf } from '../paths/index.js';
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
  const cameFrom = seen.cameFrom ?? [];
  if (elsewhere && now.type === recorded.type) {
    // what stands here now was where ours is now: the two exchanged their paths, be it by way of a third
    if (cameFrom.includes(elsewhere.identity.path)) return { state: 'followed', to: elsewhere, evidence: 'swap' };
    // ours went on, and another known file passes through as well; one saved over it would be new
    if (seen.inPassing && cameFrom.length > 0)
      return { state: 'followed', to: elsewhere, evidence: 'same-inode-and-birth' };
  }
  if (now.type !== recorded.type)
    return {
      state: 'unsure',
      candidates: seen.sameInode.filter((c) => sameFile(recorded, c.identity)),
      reason: 'replaced-by-other-type',
    };
  return { state: 'saved-over', identity: now, evidence: 'same-path-new-content' };
}

function gone(recorded: Identity, seen: Observation): Decision {
  const inode = seen.sameInode.filter((c) => sameFile(recorded, c.identity));
  const dated = inode.filter((c) => recorded.birth !== 0 && c.identity.birth === recorded.birth);
  // several names of one inode are hard links to one file: the first in path order is as good as any
  if (dated.length > 0) return { state: 'followed', to: first(dated), evidence: 'same-inode-and-birth' };
  const byContent = inode.filter(
    (c) => recorded.fingerprint !== undefined && c.identity.fingerprint === recorded.fingerprint,
  );
  if (byContent.length > 0) return { state: 'followed', to: first(byContent), evidence: 'same-inode-and-fingerprint' };
  const byName = inode.filter((c) => nameOf(c.identity.path) === nameOf(recorded.path));
  if (byName.length > 0) return { state: 'followed', to: first(byName), evidence: 'same-inode-and-name' };
  // an empty file's content says nothing about which file it is
  const alike = recorded.size === 0 ? [] : seen.sameSize.filter((c) => sameContent(recorded, c.identity));
  const since = alike.filter((c) => c.firstSeen > seen.lastSeen);
  if (since.length === 1 && alike.length === 1) return { state: 'followed', to: since[0]!, evidence: 'same-digest' };
  if (alike.length > 0) return { state: 'unsure', candidates: alike, reason: 'several-alike' };
  return { state: 'lost' };
}

function first(candidates: Candidate[]): Candidate {
  return [...candidates].sort((a, b) => (a.identity.path < b.identity.path ? -1 : 1))[0]!;
}
