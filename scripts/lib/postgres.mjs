/**
 * A private PostgreSQL cluster: reached by a socket in a folder that only its owner may enter, never by the network.
 * The kernel says who asks (peer authentication), so that there is no password anywhere; the server's role is no
 * superuser. Found running it is used as it is; found dead it is started. What holds a database is never removed.
 * Built-ins only.
 */
import { randomBytes, createHash } from 'node:crypto';
import {
  chmodSync,
  chownSync,
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { tmpdir, userInfo } from 'node:os';
import { dirname, join } from 'node:path';
import { spawnSync } from 'node:child_process';
import { say, Stop } from './log.mjs';
import { ensureOwnFolder, lockOf, writeOwnFile } from './ownFiles.mjs';
import { outputOf } from './run.mjs';

/** The server's role: it owns its databases, and nothing else. */
const ROLE = 'rellin';
/** Makes databases and roles; used by this module only, and by tests. */
const ADMIN = 'rellin_admin';
/** It names the socket's file, and is no port of the network. */
const PORT = 5432;
/** The kernel's limit for the path of a socket, less the file's name (unix(7)). */
const LONGEST_SOCKET = 107 - `/.s.PGSQL.${PORT}`.length;

/** The user PostgreSQL runs as: ourselves, or where we are root (which it refuses) the package's own user. */
function owner() {
  if (process.getuid?.() !== 0) return undefined;
  const line = outputOf('getent', ['passwd', 'postgres']);
  if (!line) throw new Stop('PostgreSQL refuses to run as root, and there is no user "postgres" to run it as.');
  const [, , uid, gid] = line.trim().split(':');
  return { uid: Number(uid), gid: Number(gid) };
}

/** Whether every folder above can be passed by the other user. */
function passable(path, user) {
  for (let at = path; ; at = dirname(at)) {
    if (existsSync(at)) {
      const { mode, gid } = statSync(at);
      if ((mode & 0o001) === 0 && !(gid === user.gid && (mode & 0o010) !== 0)) return false;
    }
    if (at === dirname(at)) return true;
  }
}

const shortName = (folder) => createHash('sha256').update(folder).digest('hex').slice(0, 12);

/**
 * Where the cluster's own folder is. As the superuser it may have to lie outside a data folder that PostgreSQL's user
 * cannot reach: then below /var/lib, which stays, and never below the temporary folder, which may be cleared.
 */
function homeOf(folder, user, isShared) {
  if (!user) return folder;
  // PostgreSQL's user may pass through it, and see nothing in it
  chownSync(folder, userInfo().uid, user.gid);
  chmodSync(folder, isShared ? 0o711 : 0o710);
  if (passable(folder, user)) return folder;
  const home = join('/var/lib/rellin', shortName(folder));
  if (!existsSync(home))
    say(`PostgreSQL’s user cannot reach ${folder}; the database lies in ${home}, readable by that user only.`);
  mkdirSync(dirname(home), { recursive: true, mode: 0o711 });
  mkdirSync(home, { recursive: true, mode: 0o700 });
  if (isShared) chmodSync(home, 0o711);
  chownSync(home, user.uid, user.gid);
  return home;
}

/** An earlier version kept such a cluster below the temporary folder; it is brought from there. */
function bringFromTemporary(folder, data) {
  const before = join(tmpdir(), `rellin-pg-${shortName(join(folder, 'pg'))}`);
  if (existsSync(data) || !existsSync(join(before, 'PG_VERSION'))) return;
  const moved = spawnSync('mv', ['--no-target-directory', before, data], { encoding: 'utf8' });
  if (moved.status !== 0) throw new Stop(`The database in ${before} could not be moved to ${data}:\n${moved.stderr}`);
  say(`The database was in ${before}, where it might have been cleared; it is in ${data} now.`);
}

/** A folder for the socket that only its owner may enter, short enough for the kernel; the same at every start. */
function socketFolder(home, user) {
  const uid = user?.uid ?? userInfo().uid;
  const isOurs = (path) => {
    const s = lstatSync(path, { throwIfNoEntry: false });
    return s !== undefined && s.isDirectory() && s.uid === uid && (s.mode & 0o066) === 0;
  };
  const own = (path) => {
    if (user) chownSync(path, user.uid, user.gid);
    return path;
  };
  const within = join(home, 'pg-socket');
  if (Buffer.byteLength(within) <= LONGEST_SOCKET) {
    mkdirSync(within, { recursive: true, mode: 0o700 });
    own(within);
    if (!isOurs(within)) throw new Stop(`${within} is open to others; remove it, then start again.`);
    return within;
  }
  const note = join(home, 'pg-socket-at');
  const known = existsSync(note) ? readFileSync(note, 'utf8').trim() : undefined;
  if (known && isOurs(known)) return known;
  const fresh = own(mkdtempSync(join(tmpdir(), 'rellin-')));
  writeOwnFile(note, fresh);
  if (user) chownSync(note, user.uid, user.gid);
  return fresh;
}

/** The programs of the version that made a cluster: another one cannot read it. */
function binFor(bin, data) {
  const version = readFileSync(join(data, 'PG_VERSION'), 'utf8').trim();
  const fits = join(dirname(dirname(bin)), version, 'bin');
  if (existsSync(join(fits, 'postgres'))) return fits;
  throw new Stop(
    `The database in ${data} was made by PostgreSQL ${version}, which is not installed. Nothing was changed. Run:\n\n    apt-get install postgresql-${version}\n`,
  );
}

const quoted = (name) => (/^[\w.-]+$/.test(name) ? name : `"${name.replaceAll('"', '""')}"`);

/** Who may be whom: these users of the machine the two roles, by the socket, and nobody else anything. */
function writeAccess(data, user, users) {
  const put = (name, text) => {
    const path = join(data, name);
    if (existsSync(path) && readFileSync(path, 'utf8') === text) return;
    writeOwnFile(path, text);
    if (user) chownSync(path, user.uid, user.gid);
  };
  put('pg_hba.conf', `# written by Rellin at each start\nlocal all all peer map=rellin\n`);
  const lines = users.flatMap((name) => [ROLE, ADMIN].map((role) => `rellin ${quoted(name)} ${role}\n`));
  put('pg_ident.conf', `# written by Rellin at each start\n${lines.join('')}`);
}

/**
 * @param {{bin: string, folder: string, fsync?: boolean, users?: string[]}} options `folder` is the data folder;
 *   `users`
 *   are further users of the machine who may be the server's role
 */
export async function privateCluster({ bin, folder, fsync = true, users = [] }) {
  const user = owner();
  ensureOwnFolder(folder);
  const unlock = await lockOf(folder, 'database-lock');
  try {
    const cluster = openCluster({ bin, folder, fsync, users, user });
    cluster.start();
    return cluster;
  } finally {
    await unlock();
  }
}

function openCluster({ bin, folder, fsync, users, user }) {
  const home = homeOf(folder, user, users.length > 0);
  const data = join(home, 'pg');
  if (user) bringFromTemporary(folder, data);
  const tool = (name, args, from = bin) =>
    spawnSync(join(from, name), args, {
      ...user,
      encoding: 'utf8',
      cwd: '/',
      env: { PATH: process.env.PATH, LC_ALL: 'C.UTF-8' },
    });
  const isNew = !existsSync(join(data, 'PG_VERSION'));
  if (isNew) makeCluster({ data, user, tool });
  const own = binFor(bin, data);
  const ctl = (args) => tool('pg_ctl', ['-D', data, ...args], own);
  const socket = socketFolder(home, user);
  // others who are let in must reach it; who they are the kernel says all the same
  if (users.length > 0) chmodSync(socket, 0o711);
  writeAccess(data, user, [userInfo().username, ...(user ? ['postgres'] : []), ...users]);
  // one that runs as an earlier version started it listens on the network, by password
  if (ctl(['status']).status === 0 && !existsSync(join(socket, `.s.PGSQL.${PORT}`))) ctl(['-m', 'fast', '-w', 'stop']);

  const url = (database = ROLE, role = ROLE) =>
    `postgresql://${role}@localhost:${PORT}/${database}?host=${encodeURIComponent(socket)}`;
  const sql = (text, { database = 'postgres', role = ADMIN } = {}) =>
    spawnSync(join(own, 'psql'), ['-X', '-q', '-A', '-t', '-v', 'ON_ERROR_STOP=1', '-f', '-', url(database, role)], {
      encoding: 'utf8',
      input: text,
      env: { PATH: process.env.PATH, LC_ALL: 'C.UTF-8' },
    });
  const need = (result, what) => {
    if (result.status !== 0) throw new Stop(`${what}:\n${result.stderr}`);
    return result.stdout.trim();
  };
  const isRunning = () => ctl(['status']).status === 0;
  const start = () => {
    if (!isRunning()) {
      const options = [
        `-p ${PORT}`,
        '-c listen_addresses=',
        `-c unix_socket_directories="${socket.replaceAll('"', '""')}"`,
        `-c unix_socket_permissions=${users.length > 0 ? '0777' : '0700'}`,
        '-c max_connections=60',
        '-c shared_buffers=128MB',
        '-c max_wal_size=1GB',
        ...(fsync ? [] : ['-c fsync=off', '-c full_page_writes=off']),
      ];
      const log = join(data, 'server.log');
      const started = ctl(['-w', '-t', '30', '-l', log, '-o', options.map(shellWord).join(' '), 'start']);
      if (started.status !== 0) throw new Stop(`PostgreSQL did not start:\n${started.stderr}\nIts log: ${log}`);
    } else ctl(['reload']);
    ensureRoles({ sql, need });
    rmSync(join(folder, 'pg-password'), { force: true });
  };
  return {
    url,
    /** Its folders, wherever they had to lie. */
    folders: [home, socket],
    isRunning,
    start,
    stop: () => void ctl(['-m', 'fast', '-w', 'stop']),
    /** Only for what a test or the demo made. */
    remove() {
      rmSync(data, { recursive: true, force: true });
      rmSync(socket, { recursive: true, force: true });
      if (home !== folder) rmSync(home, { recursive: true, force: true });
    },
    ensureDatabase(name = ROLE) {
      const there = sql(`SELECT 1 FROM pg_database WHERE datname = '${name}'`);
      if (need(there, 'PostgreSQL does not answer') === '1') return;
      need(sql(`CREATE DATABASE ${name} OWNER ${ROLE}`), 'The database could not be made');
    },
    dropDatabase: (name) => void sql(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`),
  };
}

/** pg_ctl hands its options to a shell. */
const shellWord = (option) => {
  const [flag, ...rest] = option.split(' ');
  return rest.length === 0 ? flag : `${flag} '${rest.join(' ').replaceAll("'", `'\\''`)}'`;
};

/**
 * Made beside its place and moved there whole: what stands there without PG_VERSION is not ours to clear, and set
 * aside.
 */
function makeCluster({ data, user, tool }) {
  if (existsSync(data) && readdirSync(data).length > 0) {
    const aside = `${data}-set-aside-${randomBytes(4).toString('hex')}`;
    renameSync(data, aside);
    say(`${data} holds no database that PostgreSQL could read. It was set aside as ${aside}; a new one is made.`);
  }
  const fresh = `${data}-new-${randomBytes(4).toString('hex')}`;
  mkdirSync(fresh, { mode: 0o700 });
  if (user) chownSync(fresh, user.uid, user.gid);
  const args = ['-D', fresh, '-A', 'peer', '-U', ADMIN, '-E', 'UTF8', '--locale=C.UTF-8', '--no-instructions'];
  const made = tool('initdb', args);
  if (made.status !== 0) {
    rmSync(fresh, { recursive: true, force: true });
    throw new Stop(`PostgreSQL's cluster could not be made:\n${made.stderr}`);
  }
  rmSync(data, { recursive: true, force: true });
  renameSync(fresh, data);
}

/**
 * Both roles as they are to be. A cluster of an earlier version has the server's role as its first superuser, which
 * PostgreSQL does not let become less: it gets another name and no way in, and what it owns goes to a new role.
 */
function ensureRoles({ sql, need }) {
  const roles = (role) =>
    sql(`SELECT string_agg(rolname || ':' || rolsuper, ' ' ORDER BY oid) FROM pg_roles WHERE rolname LIKE '${ROLE}%'`, {
      role,
    });
  let seen = roles(ADMIN);
  if (seen.status !== 0) {
    need(sql(`CREATE ROLE ${ADMIN} SUPERUSER LOGIN`, { role: ROLE }), 'PostgreSQL does not answer');
    seen = roles(ADMIN);
  }
  const list = need(seen, 'PostgreSQL does not answer').split(' ');
  if (list.includes(`${ROLE}:false`)) return;
  if (!list.includes(`${ROLE}:true`)) {
    need(sql(`CREATE ROLE ${ROLE} LOGIN`), 'The role could not be made');
    return;
  }
  say('The database’s role gives up its rights over the machine …');
  const before = `${ROLE}_before`;
  const databases = need(sql(`SELECT datname FROM pg_database WHERE NOT datistemplate`), 'PostgreSQL does not answer');
  // all in one act for the roles, then each database by itself: what is done twice does no harm
  for (const database of databases.split('\n'))
    need(sql(OWNERSHIP, { database }), `The owner in ${database} could not be changed`);
  need(
    sql(`BEGIN; ALTER ROLE ${ROLE} RENAME TO ${before}; ALTER ROLE ${before} NOLOGIN PASSWORD NULL;
         ALTER ROLE ${ROLE}_next RENAME TO ${ROLE}; COMMIT`),
    'The role could not be changed',
  );
}

const OWNERSHIP = `
  DO $$
  DECLARE r record;
  BEGIN
    IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = '${ROLE}_next') THEN
      CREATE ROLE ${ROLE}_next LOGIN;
    END IF;
    IF current_database() <> 'postgres' THEN
      EXECUTE format('ALTER DATABASE %I OWNER TO ${ROLE}_next', current_database());
    END IF;
    FOR r IN SELECT c.oid::regclass AS name, c.relkind FROM pg_class c
             WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p', 'v', 'm', 'S', 'f')
               AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = c.oid AND d.deptype IN ('a', 'i', 'e') AND c.relkind = 'S') LOOP
      EXECUTE format('ALTER %s %s OWNER TO ${ROLE}_next',
        CASE r.relkind WHEN 'v' THEN 'VIEW' WHEN 'm' THEN 'MATERIALIZED VIEW' WHEN 'S' THEN 'SEQUENCE' ELSE 'TABLE' END, r.name);
    END LOOP;
    FOR r IN SELECT p.oid::regprocedure AS name FROM pg_proc p WHERE p.pronamespace = 'public'::regnamespace
               AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e') LOOP
      EXECUTE format('ALTER ROUTINE %s OWNER TO ${ROLE}_next', r.name);
    END LOOP;
    FOR r IN SELECT t.oid::regtype AS name FROM pg_type t WHERE t.typnamespace = 'public'::regnamespace
               AND t.typtype IN ('e', 'd', 'c') AND (t.typrelid = 0 OR (SELECT relkind FROM pg_class WHERE oid = t.typrelid) = 'c')
               AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = t.oid AND d.deptype = 'e') LOOP
      EXECUTE format('ALTER TYPE %s OWNER TO ${ROLE}_next', r.name);
    END LOOP;
  END $$;`;
