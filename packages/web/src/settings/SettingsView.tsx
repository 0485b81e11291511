/** The person's choices, in sections with an index beside them. */
import { Link, useLocation } from 'react-router';
import type { SettingsView as Settings } from '@rellin/contract';
import { patch } from '../api/client';
import { usePlaces, usePrograms, useSettings } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { useKnown, Loaded, Loading } from '../parts/Loaded';
import { ViewHead } from '../parts/Roving';
import { Contents } from './Contents';
import { Keys } from './Keys';
import { ProgramsByKind, StartFolder } from './Opening';
import { Page, Pins } from './PageAndPins';
import { Places } from './Places';
import { ReachConstants } from './ReachConstants';
import { SECTIONS } from './sections';
import { SigningIn } from './SigningIn';
import './settings.css';

export default function SettingsView() {
  const settings = useSettings();
  // sections stand below one another, and a link may lead to one
  const known = useKnown(usePlaces(), usePrograms());
  const d = useCommands();
  const { hash } = useLocation();
  const change = (p: Partial<Settings>) =>
    void d.attempt(async () => {
      await patch('/settings', p);
    });
  return (
    <main className="view settings" id="view">
      <ViewHead>
        <h1>Settings</h1>
      </ViewHead>
      <Loaded of={settings} what="The settings">
        {(s) =>
          !known ? (
            <Loading />
          ) : (
            <div className="settings-body">
              <nav className="settings-index" aria-label="Sections of Settings">
                {SECTIONS.map(({ id, title }) => (
                  <Link key={id} to={`#${id}`} aria-current={hash === `#${id}` ? 'location' : undefined}>
                    {title}
                  </Link>
                ))}
              </nav>
              <div>
                <Places />
                <Page settings={s} onChange={change} />
                <Keys settings={s} onChange={change} />
                <Pins settings={s} onChange={change} />
                <StartFolder settings={s} />
                <ProgramsByKind settings={s} />
                <ReachConstants settings={s} />
                <Contents settings={s} onChange={change} />
                <SigningIn />
              </div>
            </div>
          )
        }
      </Loaded>
    </main>
  );
}
