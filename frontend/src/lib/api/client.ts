/** The only place that fetches. Every call gives the value or throws a Trouble with one sentence for the screen. */
import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Player = Schemas['Player'];
export type PracticeSession = Schemas['PracticeSession'];
export type SessionState = Schemas['SessionState'];
export type FigureView = Schemas['FigureView'];
export type TraceOut = Schemas['TraceOut'];
export type Take = Schemas['Take'];
export type Verdict = Schemas['Verdict'];
export type Measures = Schemas['Measures'];
export type LogSession = Schemas['LogSession'];
export type LogTake = Schemas['LogTake'];
export type Catalogue = Schemas['CatalogueOut'];

export class Trouble extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message);
  }
}

const client = createClient<paths>({ baseUrl: '' });

type Answer<T> = { data?: T; error?: unknown; response: Response };

async function must<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Trouble('Orexis does not answer. Is it still running? Nothing you played is lost.', 0);
  }
  if (answer.error !== undefined || !answer.response.ok) {
    const said = (answer.error as { message?: string } | undefined)?.message;
    throw new Trouble(said ?? `The server answered ${answer.response.status}.`, answer.response.status);
  }
  return answer.data as T;
}

export const api = {
  catalogue: () => must(client.GET('/api/catalogue')),
  players: () => must(client.GET('/api/players')),
  addPlayer: (body: Schemas['PlayerIn']) => must(client.POST('/api/players', { body })),
  changePlayer: (player_id: string, body: Schemas['PlayerIn']) =>
    must(client.PUT('/api/players/{player_id}', { params: { path: { player_id } }, body })),
  openSession: (body: Schemas['SessionIn']) => must(client.POST('/api/sessions', { body })),
  session: (session_id: string) => must(client.GET('/api/sessions/{session_id}', { params: { path: { session_id } } })),
  latestSession: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/session', { params: { path: { player_id } } })),
  figure: (session_id: string, index: number) =>
    must(client.GET('/api/sessions/{session_id}/figures/{index}', { params: { path: { session_id, index } } })),
  log: (player_id: string) => must(client.GET('/api/players/{player_id}/log', { params: { path: { player_id } } })),
  take: (take_id: string) => must(client.GET('/api/takes/{take_id}', { params: { path: { take_id } } })),
  takeFigure: (take_id: string) => must(client.GET('/api/takes/{take_id}/figure', { params: { path: { take_id } } })),
  takeTrace: (take_id: string) => must(client.GET('/api/takes/{take_id}/trace', { params: { path: { take_id } } })),
  discard: (take_id: string, discarded: boolean) =>
    must(client.PUT('/api/takes/{take_id}/discarded', { params: { path: { take_id } }, body: { discarded } })),
  remark: (take_id: string, remark: string) =>
    must(client.PUT('/api/takes/{take_id}/remark', { params: { path: { take_id } }, body: { remark } })),
  perform: (body: Schemas['PerformIn']) =>
    must(client.POST('/api/simulated', { body, parseAs: 'arrayBuffer' })) as Promise<ArrayBuffer>,
  dropSound: (session_id: string, file: File) =>
    must(
      client.POST('/api/sessions/{session_id}/takes', {
        params: { path: { session_id } },
        body: { file: file as unknown as string },
        bodySerializer: () => {
          const form = new FormData();
          form.append('file', file);
          return form;
        },
      }),
    ),
  soundUrl: (take_id: string) => `/api/takes/${encodeURIComponent(take_id)}/sound`,
};
