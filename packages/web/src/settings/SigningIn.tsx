/** Who is signed in, and by what one can sign in. */
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useQueryClient } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import type { SignedInBrowser } from '@rellin/contract';
import { useCommands } from '../workspace/useCommands';
import { put, remove } from '../api/client';
import { useBrowsers, useSession } from '../api/queries';
import { useWorkspaceActions } from '../workspace/workspace';
import { shortDate } from '../parts/dates';
import { Section } from './Section';

/** The browser's own name, out of what it says of itself (RFC 9110 section 10.1.5: the last product is its own). */
function browserName(agent: string): string {
  const products = [...agent.matchAll(/([A-Za-z][\w.-]*)\/\d[\w.]*/g)].map((m) => m[1]!);
  return products.filter((p) => !/^(Mozilla|AppleWebKit|Safari|Gecko|Version|KHTML)$/.test(p)).at(-1) ?? 'A browser';
}

function PassphraseForm({ isSet }: { isSet: boolean }) {
  const d = useCommands();
  const { say } = useWorkspaceActions();
  const client = useQueryClient();
  const form = useForm({ defaultValues: { current: '', passphrase: '' } });
  const save = (current: string, passphrase: string) =>
    d.attempt(async () => {
      await put('/session/passphrase', { passphrase, ...(isSet && { current }) });
      form.reset();
      await client.invalidateQueries({ queryKey: ['session'] });
      const others = 'every other browser was signed out';
      say({
        text: passphrase ? `Passphrase saved; ${others}` : `Passphrase removed; ${others}`,
        tone: 'plain',
      });
    });
  return (
    <form className="line" onSubmit={form.handleSubmit(({ current, passphrase }) => save(current, passphrase))}>
      {isSet && (
        <TextField
          type="password"
          autoComplete="current-password"
          label="Current passphrase"
          {...form.register('current', { required: true })}
        />
      )}
      <TextField
        type="password"
        autoComplete="new-password"
        label={isSet ? 'New passphrase' : 'Passphrase'}
        {...form.register('passphrase', { required: true })}
      />
      <Button variant="contained" type="submit">
        Save
      </Button>
      {isSet && (
        <Button variant="outlined" onClick={() => void save(form.getValues('current'), '')}>
          Remove passphrase
        </Button>
      )}
    </form>
  );
}

function Browser({ browser, onSignOut }: { browser: SignedInBrowser; onSignOut: () => void }) {
  const name = browserName(browser.agent);
  const by = browser.cameBy === 'address' ? 'by a one-time address' : 'by the passphrase';
  return (
    <li className="place-row">
      <span className="place-text">
        <span className="name">{browser.isThis ? `${name} (this browser)` : name}</span>
        <span className="small">
          Signed in {shortDate(browser.since)} {by}; last used {shortDate(browser.lastSeen)}
        </span>
      </span>
      {!browser.isThis && (
        <Button
          variant="outlined"
          onClick={onSignOut}
          aria-label={`Sign out ${name}, signed in ${shortDate(browser.since)}`}
        >
          Sign out
        </Button>
      )}
    </li>
  );
}

function Browsers() {
  const d = useCommands();
  const browsers = useBrowsers();
  const signOut = (path: '/session/browsers' | `/session/browsers/${string}`) =>
    d.attempt(async () => {
      await remove(path);
      await browsers.refetch();
    });
  const others = browsers.data?.filter((b) => !b.isThis) ?? [];
  return (
    <>
      <h3>Signed-in browsers</h3>
      {browsers.isError && <p className="small">The list could not be loaded. {browsers.error.message}</p>}
      <ul className="place-list sheet">
        {browsers.data?.map((b) => (
          <Browser key={b.id} browser={b} onSignOut={() => void signOut(`/session/browsers/${b.id}`)} />
        ))}
      </ul>
      {others.length > 1 && (
        <div className="line">
          <Button variant="outlined" onClick={() => void signOut('/session/browsers')}>
            Sign out all others
          </Button>
        </div>
      )}
    </>
  );
}

export function SigningIn() {
  const isSet = useSession().data?.needsPassphrase ?? false;
  return (
    <Section id="signing-in">
      <p className="small">
        Only programs of your own user on this machine can reach Rellin. A browser signs in by the one-time address
        printed at start
        {isSet ? ', or by the passphrase.' : '; with a passphrase it can also sign in by that.'} It stays signed in
        until it has not been used for 30 days, and for 180 days at most.
      </p>
      <PassphraseForm isSet={isSet} />
      <Browsers />
    </Section>
  );
}
