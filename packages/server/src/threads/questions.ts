/** Questions to a worker thread under numbers, and their answers. */
interface Open {
  resolve(value: unknown): void;
  reject(error: Error): void;
}

/** What a thread answers with. */
export type Reply = { kind: 'answer'; ask: number; value: unknown } | { kind: 'failure'; ask: number; message: string };

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
    else open?.reject(new Error(reply.message));
  }

  /** The thread is gone: nothing is answered any more. */
  fail(error: Error): void {
    for (const { reject } of this.open.values()) reject(error);
    this.open.clear();
  }
}
