import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { createBrowserRouter, Navigate, RouterProvider, useRouteError } from 'react-router';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ThemeProvider } from '@mui/material/styles';
import { get, ProblemError } from './api/client';
import { useSession, useSettings, useShortcuts } from './api/queries';
import { FEATURES } from './features';
import { Frame } from './frame/Frame';
import { Failed } from './parts/ErrorBoundary';
import { FeaturesContext } from './workspace/feature';
import { cssVariables, type Mode } from './theme/tokens';
import { themeFor } from './theme/theme';

// seen once, on the first visit
const SignIn = lazy(() => import('./session/SignIn').then((m) => ({ default: m.SignIn })));
const ReachView = lazy(() => import('./reach/ReachView'));
const CatalogueView = lazy(() => import('./catalogue/CatalogueView'));
const OriginalsView = lazy(() => import('./originals/OriginalsView'));
const CollectionsView = lazy(() => import('./collections/CollectionsView'));
const BoardsView = lazy(() => import('./boards/BoardsView'));
const SearchesView = lazy(() => import('./searches/SearchesView'));
const CheckUpView = lazy(() => import('./checkUp/CheckUpView'));
const PlanView = lazy(() => import('./plan/PlanView'));
const UsageView = lazy(() => import('./usage/UsageView'));
const JournalView = lazy(() => import('./journal/JournalView'));
const BinView = lazy(() => import('./bin/BinView'));
const SweepsView = lazy(() => import('./sweeps/SweepsView'));
const SetUpView = lazy(() => import('./setUp/SetUpView'));
const SettingsView = lazy(() => import('./settings/SettingsView'));

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      refetchOnWindowFocus: true,
      // a server that is starting anew is waited for; a refusal is an answer
      retry: (count, error) =>
        !(error instanceof ProblemError && error.problem.status >= 400 && error.problem.status < 500) && count < 3,
    },
  },
});

/**
 * What every start needs is asked for at once, and the view of the address fetched beside it, instead of one after the
 * other as each part of the page appears. Without a session the refusals are thrown away.
 */
const AT_ONCE = { catalogue: () => import('./catalogue/CatalogueView'), reach: () => import('./reach/ReachView') };
function beginAtOnce(): void {
  const view = window.location.pathname.split('/')[1];
  if (view === 'catalogue' || view === 'reach') void AT_ONCE[view]();
  const ask = (queryKey: string[], path: '/session' | '/shortcuts' | '/settings' | '/pins') =>
    void client.prefetchQuery({ queryKey, queryFn: () => get(path), retry: false });
  ask(['session'], '/session');
  ask(['shortcuts', 'list'], '/shortcuts');
  ask(['settings'], '/settings');
  ask(['pins'], '/pins');
}
beginAtOnce();

/** Light or dark: the person's choice, or the system's. */
function useMode(appearance: string | undefined): Mode {
  const query = useMemo(() => window.matchMedia('(prefers-color-scheme: dark)'), []);
  const [dark, setDark] = useState(query.matches);
  useEffect(() => {
    const listen = () => setDark(query.matches);
    query.addEventListener('change', listen);
    return () => query.removeEventListener('change', listen);
  }, [query]);
  return appearance === 'dark' || appearance === 'light' ? appearance : dark ? 'dark' : 'light';
}

function Gate() {
  const session = useSession();
  if (session.isError) return <p style={{ padding: 24 }}>{session.error.message}</p>;
  if (!session.data) return null;
  return session.data.signedIn ? (
    <FeaturesContext value={FEATURES}>
      <Frame />
    </FeaturesContext>
  ) : (
    <Suspense fallback={null}>
      <SignIn />
    </Suspense>
  );
}

/** The frame itself; what fails within it is met there. */
function FailedPage() {
  return <Failed what="page" error={useRouteError() as Error} />;
}

function Start() {
  const settings = useSettings();
  const shortcuts = useShortcuts();
  if (settings.isError || shortcuts.isError) return <Navigate to="/catalogue" replace />;
  if (!settings.data || !shortcuts.data) return null;
  const isNew = settings.data.setUp === 'open' && shortcuts.data.length === 0;
  return <Navigate to={isNew ? '/set-up' : `/${settings.data.startView}`} replace />;
}

const router = createBrowserRouter([
  {
    element: <Gate />,
    errorElement: <FailedPage />,
    children: [
      { index: true, element: <Start /> },
      { path: 'sign-in', element: <Start /> },
      { path: 'reach', element: <ReachView /> },
      { path: 'catalogue', element: <CatalogueView /> },
      { path: 'originals/:placeId?/:folderId?', element: <OriginalsView /> },
      { path: 'collections', element: <CollectionsView /> },
      { path: 'collections/tag/:tagId', element: <CollectionsView /> },
      { path: 'collections/:collectionId/:folderId?', element: <CollectionsView /> },
      { path: 'searches/:searchId?', element: <SearchesView /> },
      { path: 'boards/:boardId?', element: <BoardsView /> },
      { path: 'check-up', element: <CheckUpView /> },
      { path: 'plan', element: <PlanView /> },
      { path: 'sweeps/:sweepId?', element: <SweepsView /> },
      { path: 'usage', element: <UsageView /> },
      { path: 'journal', element: <JournalView /> },
      { path: 'bin/:part?', element: <BinView /> },
      { path: 'settings', element: <SettingsView /> },
      { path: 'set-up', element: <SetUpView /> },
      { path: '*', element: <Navigate to="/" replace /> },
    ],
  },
]);

function Themed() {
  const session = useSession();
  const settings = useSettings(session.data?.signedIn === true);
  const mode = useMode(settings.data?.appearance);
  const theme = useMemo(() => themeFor(mode), [mode]);
  useEffect(() => {
    for (const [name, value] of Object.entries(cssVariables(mode)))
      document.documentElement.style.setProperty(name, value);
    document.documentElement.style.colorScheme = mode;
  }, [mode]);
  return (
    <ThemeProvider theme={theme}>
      <RouterProvider router={router} />
    </ThemeProvider>
  );
}

export function App() {
  return (
    <QueryClientProvider client={client}>
      <Themed />
    </QueryClientProvider>
  );
}
