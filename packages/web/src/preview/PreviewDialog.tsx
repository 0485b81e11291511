/** Looking at a thing in place: the real bytes, shown inert. */
import { lazy, Suspense, useEffect, type KeyboardEvent } from 'react';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import IconButton from '@mui/material/IconButton';
import ChevronLeft from '@mui/icons-material/ChevronLeft';
import ChevronRight from '@mui/icons-material/ChevronRight';
import Close from '@mui/icons-material/Close';
import type { OriginalId, PlaceId, PreviewKind } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { useOriginal } from '../api/queries';
import type { RequestOf } from '../workspace/dialogRequest';
import { useDialogs, useWorkspaceActions } from '../workspace/workspace';
import { useStateFor } from '../parts/useStateFor';
import { useCommands } from '../workspace/useCommands';
import { DrawingPreview } from './DrawingPreview';
import { PicturePreview } from './PicturePreview';
import './preview.css';

const TextPreview = lazy(() => import('./TextPreview'));
const TablePreview = lazy(() => import('./TablePreview'));
const MarkdownPreview = lazy(() => import('./MarkdownPreview'));
const PdfPreview = lazy(() => import('./PdfPreview'));

/** What is read as text is read up to here; the rest is said to be left out. */
const TEXT_LIMIT = 2_000_000;

const NOT_READ = {};

function useText(address: string, size: number): { text?: string; trouble?: string } {
  const [state, setState] = useStateFor<{ text?: string; trouble?: string }>(`${size} ${address}`, NOT_READ);
  useEffect(() => {
    const abort = new AbortController();
    fetch(address, { signal: abort.signal, headers: size > TEXT_LIMIT ? { range: `bytes=0-${TEXT_LIMIT - 1}` } : {} })
      .then(async (answer) => {
        if (!answer.ok) throw new Error(((await answer.json()) as { detail?: string }).detail ?? 'It cannot be read.');
        setState({ text: await answer.text() });
      })
      .catch((error: Error) => {
        if (error.name !== 'AbortError') setState({ trouble: error.message });
      });
    return () => abort.abort();
  }, [address, size, setState]);
  return state;
}

function TextPreviewPart({
  kind,
  address,
  size,
  name,
}: {
  kind: PreviewKind;
  address: string;
  size: number;
  name: string;
}) {
  const { text, trouble } = useText(address, size);
  if (trouble) return <p className="preview-note">{trouble}</p>;
  if (text === undefined) return null;
  const View = kind === 'table' ? TablePreview : kind === 'markdown' ? MarkdownPreview : TextPreview;
  return (
    <>
      {size > TEXT_LIMIT && (
        <p className="preview-note">
          The first {formatBytes(TEXT_LIMIT)} of {formatBytes(size)}.
        </p>
      )}
      <View text={text} name={name} />
    </>
  );
}

/** The thing itself, by the way it can be shown. */
export function Preview({ placeId, originalId, name }: { placeId: PlaceId; originalId: OriginalId; name: string }) {
  const original = useOriginal(placeId, originalId);
  if (original.isError) return <p className="preview-note">{original.error.message}</p>;
  if (!original.data) return null;
  const { preview, size, modified, mime } = original.data;
  const version = `v=${Math.round(modified)}`;
  const address = `/api/originals/${placeId}/${originalId}/content?${version}`;
  switch (preview) {
    case 'picture':
      if (mime === 'image/svg+xml')
        return (
          <DrawingPreview address={`/api/pictures/drawings/${placeId}/${originalId}?${version}`} name={shown(name)}>
            <TextPreviewPart kind="text" address={address} size={size} name={name} />
          </DrawingPreview>
        );
      return <PicturePreview address={address} name={shown(name)} />;
    case 'sound':
      return <audio controls src={address} aria-label={shown(name)} />;
    case 'video':
      return <video controls src={address} aria-label={shown(name)} className="preview-picture" />;
    case 'pdf':
      return <PdfPreview address={address} />;
    case 'text':
    case 'markdown':
    case 'table':
      return <TextPreviewPart kind={preview} address={address} size={size} name={name} />;
    case 'folder':
      return <p className="preview-note">A folder with {original.data.children} items.</p>;
    default:
      return (
        <p className="preview-note">
          Rellin has no way to show this {original.data.kind === 'file' ? 'file' : original.data.kind} (
          {formatBytes(size)}). Opening it hands it to its own program.
        </p>
      );
  }
}

function PreviewDialog({ request }: { request: RequestOf<'preview'> }) {
  const { closeDialog, openDialog, select, previewOrder } = useWorkspaceActions();
  const d = useCommands();
  const original = useOriginal(request.placeId, request.originalId);
  const list = previewOrder();
  const at = list.findIndex((t) => t.placeId === request.placeId && t.originalId === request.originalId);
  const walkBy = (step: number) => {
    const next = at < 0 ? undefined : list[at + step];
    if (!next) return;
    select(next.selects);
    openDialog({ kind: 'preview', placeId: next.placeId, originalId: next.originalId, name: next.name });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    // sound and video wind by the arrows; fields have them too
    if ((event.target as HTMLElement).closest('audio, video, input, textarea')) return;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'ArrowRight') walkBy(1);
    else if (event.key === 'ArrowLeft') walkBy(-1);
    else return;
    event.preventDefault();
  };
  return (
    <Dialog open onClose={closeDialog} maxWidth="lg" aria-labelledby="preview-title" onKeyDown={onKeyDown}>
      <div className="preview-head">
        <h2 id="preview-title" className="cut">
          {shown(request.name)}
        </h2>
        <span className="small cut mono">{original.data ? shown(original.data.path) : ''}</span>
        {at >= 0 && list.length > 1 && (
          <span className="preview-order small">
            <IconButton aria-label="The one before (←)" disabled={at === 0} onClick={() => walkBy(-1)} size="small">
              <ChevronLeft fontSize="small" />
            </IconButton>
            {at + 1} of {list.length}
            <IconButton
              aria-label="The next one (→)"
              disabled={at === list.length - 1}
              onClick={() => walkBy(1)}
              size="small"
            >
              <ChevronRight fontSize="small" />
            </IconButton>
          </span>
        )}
        <IconButton aria-label="Close" onClick={closeDialog} size="small">
          <Close fontSize="small" />
        </IconButton>
      </div>
      <DialogContent className="preview-body" tabIndex={0} sx={{ minHeight: 320 }}>
        <Suspense fallback={null}>
          <Preview {...request} />
        </Suspense>
      </DialogContent>
      {request.argv ? (
        <div className="preview-foot">
          <span>
            <b>Stand-in opener.</b> Would have started:{' '}
            <code className="mono">{request.argv.map(shown).join(' ')}</code>
          </span>
        </div>
      ) : (
        <div className="preview-foot">
          <span />
          <Button
            variant="outlined"
            onClick={() => {
              closeDialog();
              void d.open({ placeId: request.placeId, originalId: request.originalId, route: 'preview' });
            }}
          >
            Open
          </Button>
        </div>
      )}
    </Dialog>
  );
}

function StandInDialog({ request }: { request: RequestOf<'stand-in'> }) {
  const { closeDialog } = useWorkspaceActions();
  return (
    <Dialog open onClose={closeDialog} aria-labelledby="stand-in-title">
      <div className="preview-head">
        <h2 id="stand-in-title" className="cut">
          {request.opened.name}
        </h2>
        <IconButton aria-label="Close" onClick={closeDialog} size="small" sx={{ ml: 'auto' }}>
          <Close fontSize="small" />
        </IconButton>
      </div>
      <DialogContent>
        <p>
          <b>Stand-in opener.</b> The demo starts nothing; on your own machine Rellin would have started:
        </p>
        <p className="mono preview-argv">{request.opened.argv.join(' ')}</p>
      </DialogContent>
    </Dialog>
  );
}

export function PreviewDialogs() {
  const { dialog } = useDialogs();
  if (dialog?.kind === 'preview') return <PreviewDialog request={dialog} />;
  return dialog?.kind === 'stand-in' ? <StandInDialog request={dialog} /> : null;
}
