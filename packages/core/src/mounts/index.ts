/**
 * The kernel's table of mounts (proc(5), `/proc/self/mountinfo`), and by what a file system is known again: its own
 * number or its place on the network, not the path at which it happens to appear, nor the device number, which changes.
 */

export interface Mount {
  /** Where it appears. */
  at: string;
  /** What of the file system appears there, from its top; "/" for all of it. */
  root: string;
  /** "ext4", "nfs4", … */
  type: string;
  /** The device or share, as mounted: "/dev/sdb1", "server:/export", "//server/share". */
  source: string;
  /** Major and minor number, as `stat` has it in `dev`. */
  device: string;
}

/** Octal escapes stand for what would part the fields. */
const unescaped = (field: string) =>
  field.replace(/\\([0-7]{3})/g, (_, code: string) => String.fromCharCode(parseInt(code, 8)));

/** Lines that cannot be read are left out. */
export function parseMounts(text: string): Mount[] {
  return text.split('\n').flatMap((line): Mount[] => {
    // ID, parent, device, root, mount point, options, optional fields, "-", type, source, super options
    const [before, after] = line.split(' - ');
    const fields = before?.split(' ') ?? [];
    const [type, source] = after?.split(' ') ?? [];
    if (fields.length < 6 || type === undefined || source === undefined) return [];
    return [
      {
        device: fields[2]!,
        root: unescaped(fields[3]!),
        at: unescaped(fields[4]!),
        type,
        source: unescaped(source),
      },
    ];
  });
}

const isUnder = (path: string, folder: string) => folder === '/' || path === folder || path.startsWith(`${folder}/`);

/** The mount that a path lies in: of those above it the deepest, of one mounted over another the later. */
export function mountOf(mounts: readonly Mount[], path: string): Mount | undefined {
  let found: Mount | undefined;
  for (const m of mounts) if (isUnder(path, m.at) && (!found || m.at.length >= found.at.length)) found = m;
  return found;
}

const OF_KERNEL = new Set(
  (
    'proc sysfs devtmpfs devpts cgroup cgroup2 debugfs tracefs securityfs pstore bpf configfs mqueue hugetlbfs ' +
    'binfmt_misc selinuxfs efivarfs fusectl rpc_pipefs nsfs'
  ).split(' '),
);
/**
 * Whether the kernel shows its own state there (proc(5), sysfs(5), cgroups(7) and their like): what looks like files
 * are none that anybody put there, and reading some of them waits for ever or changes something.
 */
export const isOfKernel = (mount: Mount) => OF_KERNEL.has(mount.type);

/** A mount's device as `stat` has it in `dev`, by glibc's makedev(3). */
export function deviceNumber(device: string): number {
  const [major = 0, minor = 0] = device.split(':').map(Number);
  return (minor % 256) + (major % 4096) * 256 + Math.floor(minor / 256) * 2 ** 20 + Math.floor(major / 4096) * 2 ** 44;
}

const NETWORK = /^(nfs4?|cifs|smb3?|fuse\.sshfs|9p|ceph|glusterfs|afs|davfs|fuse\.davfs2?)$/;
export const isNetwork = (mount: Mount) => NETWORK.test(mount.type);

/** By what a folder on some file system is known again. */
export interface FileSystemIdentity {
  /** The file system's own number, or the share's name on the network. */
  id: string;
  /** The folder's path from the top of that file system; "" for the top. */
  within: string;
}

const joined = (...parts: string[]) => parts.join('/').split('/').filter(Boolean).join('/');

/**
 * `undefined` where the file system has nothing by which it would be known again (memory, overlays): then the folder's
 * contents have to tell. `numberOf` gives the number of the file system on a device, where it has one.
 */
export function identityOf(
  mounts: readonly Mount[],
  path: string,
  numberOf: (source: string) => string | undefined,
): FileSystemIdentity | undefined {
  const mount = mountOf(mounts, path);
  if (!mount) return undefined;
  const id = isNetwork(mount) ? `network ${mount.source}` : numberOf(mount.source);
  if (id === undefined) return undefined;
  return { id, within: joined(mount.root, path.slice(mount.at.length)) };
}

/** Every path at which a folder of some file system may appear now, the shortest first. */
export function pathsOf(
  mounts: readonly Mount[],
  { id, within }: FileSystemIdentity,
  numberOf: (source: string) => string | undefined,
): string[] {
  const out = mounts.flatMap((mount) => {
    if ((isNetwork(mount) ? `network ${mount.source}` : numberOf(mount.source)) !== id) return [];
    const top = joined(mount.root);
    if (top !== '' && !isUnder(within, top)) return [];
    const rest = top === '' ? within : within.slice(top.length + 1);
    const path = `/${joined(mount.at, rest)}`;
    // what is mounted over it hides it
    return mountOf(mounts, path)?.device === mount.device ? [path] : [];
  });
  return [...new Set(out)].sort((a, b) => a.length - b.length || (a < b ? -1 : 1));
}
