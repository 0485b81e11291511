/** The frame round every view. */
import { lazy, Suspense } from 'react';
import { Outlet, useLocation } from 'react-router';
import { useEvents } from '../api/events';
import { ActMenu } from '../acts/ActMenu';
import { Card } from '../card/Card';
import { PinStrip } from '../pins/PinStrip';
import { ErrorBoundary } from '../parts/ErrorBoundary';
import { BottomLine } from './BottomLine';
import { DeskProvider, useDesk } from './desk';
import { DragLayer } from './DragLayer';
import { Header } from './Header';
import { Notices } from './Notices';
import { SideNav } from './SideNav';
import { useKeys } from './useKeys';
import './frame.css';

const ShortcutDialogs = lazy(() => import('../shortcuts/dialogs').then((m) => ({ default: m.ShortcutDialogs })));
const LookDialog = lazy(() => import('../look/LookDialog').then((m) => ({ default: m.LookDialog })));
const StandInDialog = lazy(() => import('../look/LookDialog').then((m) => ({ default: m.StandInDialog })));
const KeysDialog = lazy(() => import('./KeysDialog').then((m) => ({ default: m.KeysDialog })));

function Dialogs() {
  const { dialog } = useDesk();
  if (!dialog) return null;
  return (
    <Suspense fallback={null}>
      {dialog.kind === 'keys' ? (
        <KeysDialog />
      ) : dialog.kind === 'look' ? (
        <LookDialog request={dialog} />
      ) : dialog.kind === 'stand-in' ? (
        <StandInDialog request={dialog} />
      ) : (
        <ShortcutDialogs />
      )}
    </Suspense>
  );
}

/** The views whose items have a card; the others have the whole width. */
const WITH_CARD = /^\/(reach|catalogue|originals)/;

function Inside() {
  const line = useEvents();
  const { pathname } = useLocation();
  const { cardFolded } = useDesk();
  useKeys();
  return (
    <DragLayer>
      <div className="frame">
        <a className="skip" href="#view">
          To the view
        </a>
        <Header line={line} />
        <PinStrip />
        <SideNav />
        <ErrorBoundary resetKey={pathname}>
          <Suspense fallback={<main className="view" id="view" />}>
            <Outlet />
          </Suspense>
        </ErrorBoundary>
        {!cardFolded && WITH_CARD.test(pathname) && <Card />}
        <BottomLine />
      </div>
      <ActMenu route="menu" />
      <Dialogs />
      <Notices />
    </DragLayer>
  );
}

export function Frame() {
  return (
    <DeskProvider>
      <Inside />
    </DeskProvider>
  );
}
