/**
 * Talking to the server by the list of endpoints: a path, a body or an answer that is not in it does not compile. JSON
 * in and out, problem details as errors.
 */
import {
  CHANGED_HEADER,
  PAGE_HEADER,
  withQuery,
  type Answer,
  type BodyOf,
  type Method,
  type Problem,
  type QueryOf,
} from '@rellin/contract';
import { PAGE, tellChanged } from './changes';

/** Ends the request when it is aborted. */
type Signal = [signal?: AbortSignal];

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
const NOT_WAITED_FOR = /^\/(searches\/ask|originals\/locate|openings|session|filing|bin\/originals)\b/;

function send<T>(method: Method, path: string, rest: readonly unknown[]): Promise<T> {
  const body = rest.find((one) => !(one instanceof AbortSignal));
  const answer = ask<T>(path, {
    method,
    signal: signalOf(rest),
    ...(body !== undefined && { headers: { 'content-type': 'application/json' } }),
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  if (!NOT_WAITED_FOR.test(path)) {
    underWay.add(answer);
    const over = () => underWay.delete(answer);
    answer.then(over, over);
  }
  return answer;
}

const signalOf = (rest: readonly unknown[]) => rest.find((one) => one instanceof AbortSignal);

/**
 * Resolves when every change sent so far is answered. What is shown before the answer may be taken back at once: an
 * undo that overtook it would take back the act before.
 */
export const settled = (): Promise<unknown> => Promise.allSettled([...underWay]);

async function ask<T>(path: string, init: RequestInit): Promise<T> {
  let answer: Response;
  try {
    answer = await fetch(`/api${path}`, { ...init, headers: { ...init.headers, [PAGE_HEADER]: PAGE } });
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
  const changed = answer.headers.get(CHANGED_HEADER);
  if (answer.status === 204 || answer.status === 202) {
    tellChanged(changed, path, undefined);
    return undefined as T;
  }
  const data: unknown = await answer.json().catch((error: Error) => {
    if (error.name === 'AbortError') throw error;
    return undefined;
  });
  tellChanged(changed, path, answer.ok ? data : undefined);
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

/** What narrows the question follows the path where the endpoint takes that, then a signal. */
export const get = <P extends string>(path: P, ...rest: [...QueryOf<'GET', P>, ...Signal]) =>
  ask<Answer<'GET', P>>(
    withQuery(
      path,
      rest.find((one): one is object => typeof one === 'object' && !(one instanceof AbortSignal)),
    ),
    { method: 'GET', signal: signalOf(rest) },
  );
/** The body follows the path where the endpoint takes one, then a signal. */
export const post = <P extends string>(path: P, ...rest: [...BodyOf<'POST', P>, ...Signal]) =>
  send<Answer<'POST', P>>('POST', path, rest);
export const patch = <P extends string>(path: P, ...body: BodyOf<'PATCH', P>) =>
  send<Answer<'PATCH', P>>('PATCH', path, body);
export const put = <P extends string>(path: P, ...body: BodyOf<'PUT', P>) => send<Answer<'PUT', P>>('PUT', path, body);
export const remove = <P extends string>(path: P, ...body: BodyOf<'DELETE', P>) =>
  send<Answer<'DELETE', P>>('DELETE', path, body);
/** Bytes as they are. */
export const upload = <P extends string>(path: P, bytes: Blob, ...query: QueryOf<'POST', P>) =>
  ask<Answer<'POST', P>>(withQuery(path, query[0] as object | undefined), {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: bytes,
  });
