/** Talking to the server: JSON in and out, problem details as errors. */
import type { Problem } from '@rellin/contract';

export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.remedy ? `${problem.detail} ${problem.remedy}` : problem.detail);
  }
  get kind(): string {
    return this.problem.type.replace('urn:rellin:problem:', '');
  }
}

/** Changes that were sent and are not yet answered. */
const underWay = new Set<Promise<unknown>>();
/** POST for the size of the question, what no undo takes back, and what may take long: nothing waits for these. */
const NOT_WAITED_FOR = /^\/(searches\/ask|originals\/locate|openings|session|filing)\b/;

export function call<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const answer = ask<T>(path, {
    method,
    signal,
    headers: body === undefined ? undefined : { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  if (method !== 'GET' && !NOT_WAITED_FOR.test(path)) {
    underWay.add(answer);
    const over = () => underWay.delete(answer);
    answer.then(over, over);
  }
  return answer;
}

/**
 * Resolves when every change sent so far is answered. What is shown before the answer may be taken back at once: an
 * undo that overtook it would take back the act before.
 */
export const settled = (): Promise<unknown> => Promise.allSettled([...underWay]);

async function ask<T>(path: string, init: RequestInit): Promise<T> {
  let answer: Response;
  try {
    answer = await fetch(`/api${path}`, init);
  } catch (error) {
    if ((error as Error).name === 'AbortError') throw error;
    throw new ProblemError({
      type: 'urn:rellin:problem:server-away',
      title: 'Rellin does not answer',
      status: 0,
      detail: 'Rellin has stopped or is starting anew. Nothing that was confirmed is lost.',
      remedy: 'This page goes on by itself when Rellin is back.',
    });
  }
  if (answer.status === 204 || answer.status === 202) return undefined as T;
  const data: unknown = await answer.json().catch((error: Error) => {
    if (error.name === 'AbortError') throw error;
    return undefined;
  });
  if (!answer.ok) {
    throw new ProblemError(
      (data as Problem | undefined) ?? {
        type: 'urn:rellin:problem:unexpected',
        title: 'Something went wrong',
        status: answer.status,
        detail: `Rellin answered with ${answer.status} and no explanation.`,
      },
    );
  }
  return data as T;
}

export const get = <T>(path: string, signal?: AbortSignal) => call<T>('GET', path, undefined, signal);
export const post = <T>(path: string, body: unknown = {}, signal?: AbortSignal) => call<T>('POST', path, body, signal);
export const patch = <T>(path: string, body: unknown) => call<T>('PATCH', path, body);
export const remove = (path: string) => call<void>('DELETE', path);
/** Bytes as they are. */
export const send = <T>(path: string, bytes: Blob) =>
  ask<T>(path, { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: bytes });
