/** The frame round every view. */
import { lazy, Suspense, useEffect } from 'react';
import { Outlet, useLocation } from 'react-router';
import { useEvents } from '../api/events';
import { ActMenu } from '../acts/ActMenu';
import { Card } from '../card/Card';
import { PinStrip } from '../pins/PinStrip';
import { ErrorBoundary } from '../parts/ErrorBoundary';
import { BottomLine } from './BottomLine';
import { WorkspaceProvider, useDialogs, useFrame, useNotice, useWorkspaceActions } from '../workspace/workspace';
import { useFeatures } from '../workspace/feature';
import { DroppedLinks } from './DroppedLinks';
import { DragLayer } from './DragLayer';
import { Header } from './Header';
import { QuietScreen } from './QuietScreen';
import { SideNav } from './SideNav';
import { useKeys } from './useKeys';
import { useLetters } from './useLetters';
import './frame.css';

// not needed before somebody rests on something
const HintLayer = lazy(() => import('./HintLayer').then((m) => ({ default: m.HintLayer })));
const Notices = lazy(() => import('./Notices').then((m) => ({ default: m.Notices })));

/** The forms come when the page has nothing else to do, so that the first key typed into one is not lost. */
function usePreloaded() {
  const { all } = useFeatures();
  useEffect(() => {
    const idle = window.requestIdleCallback?.(() => {
      void import('./Notices');
      void import('../pins/PinMenu');
      for (const { load, atIdle } of all.flatMap((f) => f.dialogs ?? [])) if (atIdle) void load();
    });
    return () => window.cancelIdleCallback?.(idle);
  }, [all]);
}

function Dialogs() {
  const { dialog } = useDialogs();
  const { dialogs } = useFeatures();
  const { closeDialog, say } = useWorkspaceActions();
  const Group = dialog && dialogs[dialog.kind];
  return (
    <ErrorBoundary
      what="dialog"
      resetKey={dialog?.kind}
      onFailed={(text) => {
        closeDialog();
        say({ text, tone: 'trouble' });
      }}
    >
      <Suspense fallback={null}>{Group && <Group />}</Suspense>
    </ErrorBoundary>
  );
}

/** The views whose items have a card; the others have the whole width. */
const WITH_CARD = /^\/(reach|catalogue|originals|collections|searches|boards|check-up)/;

function Inside() {
  const line = useEvents();
  const { pathname } = useLocation();
  const { cardFolded, stripHidden, quiet } = useFrame();
  const { notice } = useNotice();
  const { choose } = useWorkspaceActions();
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
      <DroppedLinks />
      <Suspense fallback={null}>{notice && <Notices />}</Suspense>
      <Suspense fallback={null}>{!quiet && <HintLayer />}</Suspense>
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
