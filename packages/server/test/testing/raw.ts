/** Requests as no well-behaved client makes them: any first line, any headers, on a socket of their own. */
import http from 'node:http';
import net from 'node:net';

export interface Answer {
  status: number;
  headers: http.IncomingHttpHeaders;
  body: string;
}

export interface Asked {
  method?: string;
  headers?: Record<string, string>;
  body?: string | Buffer;
  /** Milliseconds after which it counts as never answered. */
  within?: number;
  /** Connections to take and give back; each request has its own by default. */
  agent?: http.Agent;
}

/** The path goes out just as it is written. */
export function ask(
  address: string,
  path: string,
  { method = 'GET', headers = {}, body, within = 15_000, agent }: Asked = {},
) {
  const { hostname, port } = new URL(address);
  return new Promise<Answer>((resolve, reject) => {
    const request = http.request({ host: hostname, port, path, method, headers, agent: agent ?? false }, (answer) => {
      let text = '';
      answer.on('data', (chunk: Buffer) => (text += chunk.toString()));
      answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers, body: text }));
      answer.on('error', reject);
    });
    request.setTimeout(within, () => request.destroy(new Error(`${method} ${path} was not answered in ${within} ms`)));
    request.on('error', reject);
    request.end(body);
  });
}

/** Sends these very bytes and reads to the end; for what `http` refuses to send. */
export function exchange(address: string, bytes: string, within = 15_000): Promise<string> {
  const { hostname, port } = new URL(address);
  return new Promise((resolve, reject) => {
    const socket = net.connect(Number(port), hostname, () => socket.write(bytes));
    let text = '';
    socket.setTimeout(within, () => socket.destroy(new Error(`not answered in ${within} ms`)));
    socket.on('data', (chunk) => (text += chunk.toString()));
    socket.on('end', () => resolve(text));
    socket.on('close', () => resolve(text));
    socket.on('error', reject);
  });
}

export const cookieOf = (answer: Answer) => answer.headers['set-cookie']?.[0]?.split(';')[0] ?? '';
