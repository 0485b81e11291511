/** The folders of this machine: tiles for the places, the trail, and what is in the folder. */
import { useCallback } from 'react';
import { useParams } from 'react-router';
import type { OriginalId } from '@rellin/contract';
import { idIn } from '../api/idIn';
import { usePlaces, usePrograms, useSettings, useStandardFolders } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { useKnown, Loading } from '../parts/Loaded';
import { FolderList } from './FolderList';
import { PlaceTiles } from './PlaceTiles';
import { ProgramList } from './ProgramList';
import './originals.css';
import { AddFolder } from '../parts/AddFolder';

export default function OriginalsView() {
  const { placeId, folderId } = useParams();
  const places = usePlaces();
  const tiles = useKnown(places, usePrograms(), useStandardFolders());
  const first = places.data?.find((p) => p.state === 'here') ?? places.data?.[0];
  const programs = placeId === 'programs';
  const settings = useSettings();
  const start = placeId === undefined ? settings.data?.startFolder : undefined;
  const id = programs
    ? undefined
    : placeId !== undefined
      ? idIn(placeId)
      : settings.isPending
        ? undefined
        : (start?.placeId ?? first?.id);
  // an address that somebody typed or cut short names nothing
  const isOdd = !programs && [placeId, folderId].some((part) => part !== undefined && idIn(part) === undefined);
  const to = useCallback((folder: OriginalId) => `/originals/${id}/${folder}`, [id]);
  return (
    <main className="view fills" id="view">
      <h1 className="hidden-text">Originals</h1>
      {tiles && <PlaceTiles current={programs ? 'programs' : id} />}
      {!tiles ? (
        <Loading />
      ) : isOdd ? (
        <EmptyState title="This address names no folder">Choose one above, or find it by its name.</EmptyState>
      ) : programs ? (
        <ProgramList />
      ) : id !== undefined ? (
        <FolderList key={id} placeId={id} folderId={idIn(folderId) ?? start?.originalId ?? 1} to={to} />
      ) : (
        places.isSuccess &&
        places.data.length === 0 && (
          <EmptyState title="Rellin has no folder yet" action={<AddFolder />}>
            A place is a folder that Rellin may look into. Name one, and its files can have shortcuts.
          </EmptyState>
        )
      )}
    </main>
  );
}
