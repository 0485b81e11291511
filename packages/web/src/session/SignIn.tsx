import { useState } from 'react';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useQueryClient } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { post } from '../api/client';
import { useSession } from '../api/queries';
import { Tether } from '../parts/Tether';
import './session.css';

/** What a browser without a session sees. */
export function SignIn() {
  const session = useSession();
  const client = useQueryClient();
  const [params] = useSearchParams();
  const [passphrase, setPassphrase] = useState('');
  const [trouble, setTrouble] = useState('');
  return (
    <main className="sign-in">
      <h1>
        <Tether state="ready" title="" /> Rellin
      </h1>
      <p>
        {params.get('used')
          ? 'That address was used already, or has expired. Each works once.'
          : 'This browser is not signed in.'}{' '}
        Open the address that Rellin printed when it started, or run:
      </p>
      <p className="mono command">rellin address</p>
      {session.data?.needsPassphrase && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            post('/session/sign-in', { passphrase }).then(
              ({ goOnAt }) => (goOnAt ? location.assign(goOnAt) : client.invalidateQueries({ queryKey: ['session'] })),
              (error: Error) => setTrouble(error.message),
            );
          }}
        >
          <TextField
            type="password"
            autoComplete="current-password"
            label="Passphrase"
            value={passphrase}
            onChange={(e) => setPassphrase(e.target.value)}
            error={trouble !== ''}
            helperText={trouble}
          />
          <Button variant="contained" type="submit">
            Sign in
          </Button>
        </form>
      )}
    </main>
  );
}
