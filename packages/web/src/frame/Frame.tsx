/** The frame round every view. */
import { lazy, Suspense, useEffect } from 'react';
import { Outlet, useLocation } from 'react-router';
import { useEvents } from '../api/events';
import { ActMenu } from '../acts/ActMenu';
import { Card } from '../card/Card';
import { PinStrip } from '../pins/PinStrip';
import { ErrorBoundary } from '../parts/ErrorBoundary';
import { BottomLine } from './BottomLine';
import { WorkspaceProvider, useWorkspace, type DialogRequest } from '../workspace/workspace';
import { DragLayer } from './DragLayer';
import { Header } from './Header';
import { QuietScreen } from './QuietScreen';
import { SideNav } from './SideNav';
import { useKeys } from './useKeys';
import { useLetters } from './useLetters';
import './frame.css';

const ShortcutDialogs = lazy(() => import('../shortcuts/dialogs').then((m) => ({ default: m.ShortcutDialogs })));
const GatherDialogs = lazy(() => import('../collections/dialogs').then((m) => ({ default: m.GatherDialogs })));
const FilingDialogs = lazy(() => import('../filing/dialogs').then((m) => ({ default: m.FilingDialogs })));
const AliasDialogs = lazy(() => import('../aliases/dialogs').then((m) => ({ default: m.AliasDialogs })));
const BoardDialogs = lazy(() => import('../boards/dialogs').then((m) => ({ default: m.BoardDialogs })));
const PreviewDialog = lazy(() => import('../preview/PreviewDialog').then((m) => ({ default: m.PreviewDialog })));
const StandInDialog = lazy(() => import('../preview/PreviewDialog').then((m) => ({ default: m.StandInDialog })));
const SearchDialogs = lazy(() => import('../searches/dialogs').then((m) => ({ default: m.SearchDialogs })));
const Notices = lazy(() => import('./Notices').then((m) => ({ default: m.Notices })));
const KeysDialog = lazy(() => import('./KeysDialog').then((m) => ({ default: m.KeysDialog })));

const GATHER_DIALOGS = new Set<DialogRequest['kind']>([
  'new-collection',
  'change-collection',
  'add-to-collection',
  'collect-folder',
  'gather',
  'tags',
  'change-tag',
]);

const BOARD_DIALOGS = new Set<DialogRequest['kind']>([
  'new-board',
  'change-board',
  'new-region',
  'change-region',
  'new-bundle',
  'change-bundle',
  'lay-on-board',
]);

/** The forms come when the page has nothing else to do, so that the first key typed into one is not lost. */
function usePreloaded() {
  useEffect(() => {
    const idle = window.requestIdleCallback?.(() => {
      void import('./Notices');
      void import('../pins/PinMenu');
      void import('../collections/dialogs');
      void import('../shortcuts/dialogs');
      void import('../searches/dialogs');
      void import('../filing/dialogs');
    });
    return () => window.cancelIdleCallback?.(idle);
  }, []);
}

function Dialogs() {
  const { dialog } = useWorkspace();
  if (!dialog) return null;
  return (
    <Suspense fallback={null}>
      {dialog.kind === 'keys' ? (
        <KeysDialog />
      ) : dialog.kind === 'preview' ? (
        <PreviewDialog request={dialog} />
      ) : dialog.kind === 'stand-in' ? (
        <StandInDialog request={dialog} />
      ) : dialog.kind === 'file-into' || dialog.kind === 'clashes' ? (
        <FilingDialogs />
      ) : dialog.kind === 'save-search' || dialog.kind === 'change-search' ? (
        <SearchDialogs />
      ) : dialog.kind === 'alias' || dialog.kind === 'publish' ? (
        <AliasDialogs />
      ) : BOARD_DIALOGS.has(dialog.kind) ? (
        <BoardDialogs />
      ) : GATHER_DIALOGS.has(dialog.kind) ? (
        <GatherDialogs />
      ) : (
        <ShortcutDialogs />
      )}
    </Suspense>
  );
}

/** The views whose items have a card; the others have the whole width. */
const WITH_CARD = /^\/(reach|catalogue|originals|collections|searches|boards|check-up)/;

function Inside() {
  const line = useEvents();
  const { pathname } = useLocation();
  const { cardFolded, stripHidden, quiet, notice, choose } = useWorkspace();
  useLetters();
  useKeys();
  // what was chosen in one list is not in the next
  useEffect(() => choose([]), [pathname, choose]);
  usePreloaded();
  return (
    <DragLayer>
      <div className={`frame${stripHidden ? ' strip-hidden' : ''}${quiet ? ' quiet' : ''}`}>
        <a className="skip" href="#view">
          To the view
        </a>
        <Header line={line} />
        <PinStrip />
        <SideNav />
        <ErrorBoundary resetKey={pathname}>
          <Suspense fallback={<main className="view" id="view" />}>{quiet ? <QuietScreen /> : <Outlet />}</Suspense>
        </ErrorBoundary>
        {!cardFolded && !quiet && WITH_CARD.test(pathname) && <Card />}
        {quiet ? <footer className="bottom-line" /> : <BottomLine />}
      </div>
      <ActMenu route="menu" />
      <Dialogs />
      <Suspense fallback={null}>{notice && <Notices />}</Suspense>
    </DragLayer>
  );
}

export function Frame() {
  return (
    <WorkspaceProvider>
      <Inside />
    </WorkspaceProvider>
  );
}
