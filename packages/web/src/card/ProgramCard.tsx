import Button from '@mui/material/Button';
import { usePrograms } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { Picture } from '../parts/Picture';
import { asPictured } from '../parts/pictured';
import { CommandKey } from '../parts/KeyCap';

export function ProgramCard({ id }: { id: string }) {
  const program = usePrograms().data?.find((p) => p.id === id);
  const d = useCommands();
  if (!program) return null;
  return (
    <>
      <header className="card-head">
        <Picture of={asPictured(id)} size={34} />
        <h2>{program.name}</h2>
      </header>
      <p className="card-facts small">
        {['A program', program.genericName, program.comment].filter(Boolean).join(' · ')}
      </p>
      <div className="card-acts">
        <Button
          variant="contained"
          className="on-spruce"
          onClick={() => void d.addShortcut({ programId: id })}
          endIcon={<CommandKey of="N" />}
        >
          Add shortcut
        </Button>
        <Button variant="outlined" onClick={() => void d.addShortcut({ programId: id, pin: true })}>
          Pin
        </Button>
        <Button variant="outlined" onClick={() => void d.open({ programId: id, route: 'card' })}>
          Open
        </Button>
      </div>
      <section>
        <h3>Desktop entry</h3>
        <p className="mono small">{id}</p>
        <p className="small">{program.categories.join(', ')}</p>
      </section>
    </>
  );
}
