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

export function call<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  return ask<T>(path, {
    method,
    signal,
    headers: body === undefined ? undefined : { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
}

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
export const post = <T>(path: string, body: unknown = {}) => call<T>('POST', path, body);
export const patch = <T>(path: string, body: unknown) => call<T>('PATCH', path, body);
export const remove = (path: string) => call<void>('DELETE', path);
/** Bytes as they are. */
export const send = <T>(path: string, bytes: Blob) =>
  ask<T>(path, { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: bytes });
