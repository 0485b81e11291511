/** Questions to a worker thread under numbers, and their answers. */
interface Open {
  resolve(value: unknown): void;
  reject(error: Error): void;
}

/** What of an error comes across. */
export interface Failure {
  message: string;
  /** The system's code, or one of ours. */
  code?: string;
  fault?: string;
  path?: string;
}

/** What a thread answers with. */
export type Reply = { kind: 'answer'; ask: number; value: unknown } | { kind: 'failure'; ask: number; error: Failure };

export function failureOf(error: unknown): Failure {
  const { message, code, fault, path } = error as Error & Failure;
  return { message, code, fault, path };
}

export class Questions {
  private readonly open = new Map<number, Open>();
  private next = 1;

  /** Sends a question under the next number; resolves with its answer. */
  ask(send: (ask: number) => void): Promise<unknown> {
    const ask = this.next++;
    return new Promise((resolve, reject) => {
      this.open.set(ask, { resolve, reject });
      send(ask);
    });
  }

  hear(reply: Reply): void {
    const open = this.open.get(reply.ask);
    this.open.delete(reply.ask);
    if (reply.kind === 'answer') open?.resolve(reply.value);
    else open?.reject(Object.assign(new Error(reply.error.message), reply.error));
  }

  /** The thread is gone: nothing is answered any more. */
  fail(error: Error): void {
    for (const { reject } of this.open.values()) reject(error);
    this.open.clear();
  }
}
