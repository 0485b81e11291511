/** Names a folder that Rellin may look into: a place from then on. What stands against it is said at the field. */
import { useState } from 'react';
import Button from '@mui/material/Button';
import { post, ProblemError } from '../api/client';
import { usePlaces } from '../api/queries';
import { PathChooser } from './PathChooser';
import './AddFolder.css';

export function AddFolder() {
  const places = usePlaces();
  const [root, setRoot] = useState('');
  const [wrong, setWrong] = useState<string>();
  const add = async () => {
    try {
      await post('/places', { root });
      setRoot('');
      await places.refetch();
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      setWrong(error.message);
    }
  };
  return (
    <form
      className="add-folder"
      onSubmit={(event) => {
        event.preventDefault();
        if (root.trim() !== '') void add();
      }}
    >
      <PathChooser
        anyFolder
        want="folder"
        title="Choose a folder to look into"
        label="Folder"
        help="A path: ~/… or /…, or a file address"
        error={wrong}
        value={root}
        onChange={(value) => {
          setRoot(value);
          setWrong(undefined);
        }}
      />
      <Button variant="contained" type="submit">
        Add folder
      </Button>
    </form>
  );
}
