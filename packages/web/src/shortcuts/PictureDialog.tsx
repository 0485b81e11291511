/**
 * The picture of a shortcut or collection: from the icon set by search, from the clipboard, a file, or the original
 * itself.
 */
import type { RequestOf } from '../workspace/dialogRequest';
import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useQuery } from '@tanstack/react-query';
import { Finder } from '@rellin/core/match';
import { upload } from '../api/client';
import { useCommands } from '../workspace/useCommands';

import { ChoiceList, type Choice } from '../parts/ChoiceList';
import { CollectionPicture, Picture, SetIcon } from '../parts/Picture';
import './picture.css';

type Request = RequestOf<'picture'>;

const MOST_SHOWN = 60;
const COLUMNS = 10;
/** Answers this much weaker than the best are no answers. */
const CLOSE = 0.8;
/** The server takes no more; a larger file need not travel to be told so. */
const LARGEST = 20_000_000;

/** A choice to begin with, for what people keep. */
const FIRST =
  'sailing directions-boat anchor water waves air thunderstorm wb-sunny thermostat straighten map explore route hiking landscape forest grass flutter-dash bug-report biotech science photo-camera graphic-eq mic movie article menu-book newspaper edit-note table-chart calculate payments savings receipt gavel mail call groups person calendar-month event-note checklist task star bookmark flag folder-special archive key build'.split(
    ' ',
  );

function useIconNames() {
  return useQuery({
    queryKey: ['icon-names'],
    queryFn: async () => (await (await fetch('/icons/names.json')).json()) as string[],
    staleTime: Infinity,
  });
}

const words = (name: string) => name.replaceAll('-', ' ');

/** Names that fit what is typed, best first, by the find line's own matcher. */
function useSearch(names: readonly string[], query: string): readonly string[] {
  const finder = useMemo(() => {
    const made = new Finder();
    for (const name of names) made.put({ id: name, group: 'shortcut', name: words(name) });
    return made;
  }, [names]);
  if (query.trim() === '') return FIRST.filter((name) => names.includes(name));
  const answers = finder.search(query, MOST_SHOWN);
  // letters strewn over a name are a way to type what one knows, not to look for what one does not
  return answers.filter((answer) => answer.rank >= (answers[0]?.rank ?? 0) * CLOSE).map((answer) => answer.id);
}

export function PictureDialog({ request, onClose }: { request: Request; onClose: () => void }) {
  const d = useCommands();
  const names = useIconNames().data ?? NO_NAMES;
  const [query, setQuery] = useState('');
  const [over, setOver] = useState(false);
  const [trouble, setTrouble] = useState<string>();
  const field = useRef<HTMLInputElement>(null);
  const found = useSearch(names, query);
  const own = request.target === 'shortcut' ? request.shortcut : request.collection;
  const give = (picture: string) =>
    void d
      .setPicture(
        request.target,
        own.id,
        own.name,
        picture,
        request.target === 'collection' ? request.collection.revision : undefined,
      )
      .then((done) => done && onClose());
  const take = async (file: Blob | undefined | null) => {
    if (!file) return setTrouble('There is no picture in that.');
    if (file.size > LARGEST) return setTrouble('That is more than 20 MB. Make it smaller first; nothing was changed.');
    setTrouble(undefined);
    try {
      const { id } = await upload('/pictures', file);
      give(`image:${id}`);
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };
  const takePasted = useEffectEvent((file: Blob) => void take(file));
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const file = [...(event.clipboardData?.files ?? [])][0];
      if (!file) return;
      event.preventDefault();
      takePasted(file);
    };
    document.addEventListener('paste', onPaste);
    return () => document.removeEventListener('paste', onPaste);
  }, []);
  const choices: Choice[] = found.map((name) => ({
    id: name,
    content: (
      <span className="icon-choice" title={words(name)}>
        <SetIcon name={name} size={26} />
        <span className="hidden-text">{words(name)}</span>
      </span>
    ),
    run: () => give(`icon:${name}`),
  }));
  const canThumbnail = request.target === 'shortcut' && request.shortcut.kind === 'picture';
  return (
    <Dialog
      open
      onClose={onClose}
      aria-labelledby="picture-title"
      maxWidth="sm"
      fullWidth
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void take(event.dataTransfer.files[0]);
      }}
    >
      <DialogTitle id="picture-title">A picture for “{own.name}”</DialogTitle>
      <DialogContent>
        <div className="picture-ways">
          <span className="picture-now">
            {request.target === 'shortcut' ? (
              <Picture of={request.shortcut} size={56} />
            ) : (
              <CollectionPicture picture={request.collection.picture} size={56} />
            )}
          </span>
          <div className={`picture-drop${over ? ' over' : ''}`}>
            <p className="small">Paste a picture here, drop one, or</p>
            <div>
              <Button variant="outlined" onClick={() => field.current?.click()}>
                Choose a file…
              </Button>
              {canThumbnail && (
                <Button variant="outlined" onClick={() => give('thumbnail')}>
                  The original itself
                </Button>
              )}
              {own.picture !== '' && (
                <Button variant="outlined" onClick={() => give('')}>
                  No picture
                </Button>
              )}
            </div>
            <input
              ref={field}
              type="file"
              accept="image/png,image/jpeg,image/webp,image/gif,image/avif,image/tiff"
              aria-label="Picture file"
              hidden
              onChange={(event) => void take(event.target.files?.[0])}
            />
          </div>
        </div>
        {trouble && (
          <p className="picture-trouble" role="alert">
            {trouble}
          </p>
        )}
        <div className="icon-choices">
          <ChoiceList
            label="Icon"
            placeholder="Search the icon set: boat, water, checklist…"
            query={query}
            onQuery={setQuery}
            choices={choices}
            columns={COLUMNS}
            empty={names.length === 0 ? 'The icon set is on its way.' : 'No icon is called anything like that.'}
          />
        </div>
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button variant="outlined" onClick={onClose}>
          Cancel
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const NO_NAMES: string[] = [];
