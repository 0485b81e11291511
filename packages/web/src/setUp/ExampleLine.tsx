/** The example with made-up files: begun, opened in a tab of its own, and left without a trace. */
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { get, post, remove } from '../api/client';
import { useCommands } from '../workspace/useCommands';

export function ExampleLine() {
  const d = useCommands();
  const example = useQuery({
    queryKey: ['example'],
    queryFn: () => get('/example'),
    // the event says so as well; a page that missed it is not left waiting
    refetchInterval: (query) => (query.state.data?.state === 'starting' ? 2000 : false),
  });
  const again = () => example.refetch();
  const begin = () =>
    d.attempt(async () => {
      await post('/example');
      await again();
    });
  const open = () =>
    d.attempt(async () => {
      const { address } = await post('/example/address');
      window.open(address, '_blank', 'noopener');
    });
  const leave = () =>
    d.attempt(async () => {
      const left = remove('/example');
      await again();
      await left;
      await again();
    });
  if (!example.data || example.data.state === 'unavailable') return null;
  const { state, trouble } = example.data;
  return (
    <span className="example-line" role="status">
      {state === 'none' && (
        <>
          <Button onClick={() => void begin()}>Show me with made-up files</Button>
          {trouble && <span className="small">{trouble}</span>}
        </>
      )}
      {state === 'starting' && <span className="small">The example is being prepared, about half a minute…</span>}
      {state === 'running' && (
        <>
          <Button variant="outlined" onClick={() => void open()}>
            Open the example
          </Button>
          <Button onClick={() => void leave()}>Leave it</Button>
        </>
      )}
      {state === 'leaving' && <span className="small">The example is being removed…</span>}
    </span>
  );
}
