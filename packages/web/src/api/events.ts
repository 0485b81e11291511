/** Server-sent events: what others changed is read again, and only that. */
import { useEffect, useState } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { type Topic, withQuery } from '@rellin/contract';
import { PAGE } from './changes';
import { refresh } from './refresh';

/** Whether the line to the server is open. On coming back everything is read again: events may have been missed. */
export function useEvents(): 'open' | 'lost' {
  const client = useQueryClient();
  const [line, setLine] = useState<'open' | 'lost'>('open');
  useEffect(() => {
    let source: EventSource;
    let retry: ReturnType<typeof setTimeout> | undefined;
    let wasLost = false;
    const connect = () => {
      source = new EventSource(withQuery('/api/events', { page: PAGE }));
      source.onopen = () => {
        if (wasLost) void client.invalidateQueries();
        wasLost = false;
        setLine('open');
      };
      source.addEventListener('changed', (event) => {
        const topics = JSON.parse((event as MessageEvent<string>).data) as Topic[];
        void refresh(client, topics);
      });
      source.onerror = () => {
        wasLost = true;
        setLine('lost');
        // a closed source does not try again by itself (a refused or broken answer)
        if (source.readyState === EventSource.CLOSED) retry = setTimeout(connect, 1500);
      };
    };
    connect();
    return () => {
      clearTimeout(retry);
      source.close();
    };
  }, [client]);
  return line;
}
