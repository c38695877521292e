/** The only place that fetches. Every call gives the value or throws a Trouble with one sentence for the screen. */
import createClient from 'openapi-fetch';
import { naming } from '../view/naming.svelte';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Player = Schemas['Player'];
export type SessionOut = Schemas['SessionOut'];
export type Outcome = Schemas['Outcome'];
export type SessionState = Schemas['SessionState'];
export type ExerciseView = Schemas['ExerciseView'];
export type TraceOut = Schemas['TraceOut'];
export type Take = Schemas['Take'];
export type Verdict = Schemas['Verdict'];
export type Measures = Schemas['Measures'];
export type LogSession = Schemas['LogSession'];
export type LogPage = Schemas['LogPage'];
export type ListedTake = Schemas['ListedTake'];
/** Sent as text beside the samples, so it is no schema of its own: rate, the clicks' moments, what was granted. */
export type CheckAbout = { rate: number; clicks_s: number[]; facts: Record<string, string | number | boolean | null> };
export type Device = Schemas['Device'];
export type Catalogue = Schemas['CatalogueOut'];
export type PlayerSettings = Schemas['PlayerSettings'];
export type Like = Schemas['LikeTake'];
export type SettingsChange = Schemas['SettingsChange'];
export type RangeSummary = Schemas['RangeSummaryOut'];
export type RangeNote = Schemas['RangeNoteOut'];
export type Material = Schemas['MaterialOut'];
export type ExerciseType = Schemas['ExerciseTypeOut'];
export type Param = Schemas['Param'];
export type SeriesView = Schemas['SeriesView'];
export type OwnExercise = Schemas['OwnExercise'];
export type ChartRow = Schemas['ChartRow'];
export type Setup = Schemas['Setup'];
export type Wish = Schemas['WishIn'];
export type Lips = Schemas['Lips'];
export type DayIn = Schemas['DayIn'];
export type DayShown = Schemas['DayShown'];
export type DayBlock = Schemas['DayBlock'];
export type Weeks = Schemas['WeeksShown'];
export type Goal = Schemas['GoalShown'];
export type PathShown = Schemas['PathShown'];
export type ProgressShown = Schemas['ProgressShown'];
export type OwnRoutine = Schemas['OwnRoutine'];
export type InstrumentOrPlayer = Schemas['InstrumentOrPlayer'];
export type SessionReport = Schemas['SessionReport'];
export type Sizes = Schemas['Sizes'];
export type Glance = Schemas['Glance'];
export type ClassMember = Schemas['ClassMember'];
export type StandOut = Schemas['StandOut'];
export type Keeping = Schemas['Keeping'];
export type Fault = Schemas['RecordFault'];
export type Remeasured = Schemas['Remeasured'];
export type Thrown = Schemas['DiscardedTake'];
export type SideBySide = Schemas['SideBySide'];
export type ThenAndNow = Schemas['ThenAndNow'];
export type Mark = Schemas['Mark'];
export type Exchange = Schemas['Exchange'];
export type Opened = Schemas['OpeningReport'];
export type TunerNote = Schemas['TunerNote'];
export type FreeNames = Schemas['FreeNames'];
export type TunerQuery = { a4: number; temperament: Schemas['Temperament']; root: number };
export type DroneQuery = { midi: number; chord: Schemas['Chord']; temperament: Schemas['Temperament']; a4: number };
type Dates = { from: string; to: string };

/** What is looked for in the log. */
export type Sought = {
  word?: string;
  outcome?: Outcome;
  reason?: string;
  instrument?: string;
  since?: string;
  until?: string;
};

export class Trouble extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly kind = '',
  ) {
    super(message);
  }
}

const client = createClient<paths>({ baseUrl: '' });

/** Requests that send a question: nothing is other afterwards than it was before. */
const ONLY_ASKS = /\/(check|view|export|sheet|sound|plan|sung|line\/played|simulated|free-performance|code)$/;
let changed: () => void = () => undefined;
client.use({
  onResponse({ request, response }) {
    if (response.ok && request.method !== 'GET' && !ONLY_ASKS.test(new URL(request.url).pathname)) changed();
  },
});

/** Calls back after every command that was carried out. */
export function onCommand(listener: () => void): void {
  changed = listener;
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

async function must<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Trouble('Orexis doesn’t answer. Is it still running? Nothing you played is lost.', 0);
  }
  if (answer.error !== undefined || !answer.response.ok) {
    const said = answer.error as { message?: string; kind?: string } | undefined;
    const { status } = answer.response;
    throw new Trouble(said?.message ?? `The server answered ${status}.`, status, said?.kind);
  }
  return answer.data as T;
}

export const api = {
  catalogue: () => must(client.GET('/api/catalogue')),
  players: () => must(client.GET('/api/players')),
  addPlayer: (body: Schemas['PlayerIn']) => must(client.POST('/api/players', { body })),
  changePlayer: (player_id: string, body: Schemas['PlayerIn']) =>
    must(client.PUT('/api/players/{player_id}', { params: { path: { player_id } }, body })),
  pins: () => must(client.GET('/api/pins')),
  setPin: (player_id: string, pin: string | null) =>
    must(client.PUT('/api/players/{player_id}/pin', { params: { path: { player_id } }, body: { pin } })),
  openPlayer: (player_id: string, pin: string) =>
    must(client.POST('/api/players/{player_id}/open', { params: { path: { player_id } }, body: { pin } })),
  closePlayers: () => must(client.DELETE('/api/pins/open')),
  changeInstrument: (player_id: string, body: Setup) =>
    must(client.PUT('/api/players/{player_id}/instrument', { params: { path: { player_id } }, body })),
  instrumentOrPlayer: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/instrument/told', { params: { path: { player_id } } })),
  takeOver: (player_id: string) =>
    must(client.PUT('/api/players/{player_id}/instrument/learned', { params: { path: { player_id } } })),
  giveBack: (player_id: string) =>
    must(client.DELETE('/api/players/{player_id}/instrument/learned', { params: { path: { player_id } } })),
  chart: (player_id: string) => must(client.GET('/api/players/{player_id}/chart', { params: { path: { player_id } } })),
  material: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/material', { params: { path: { player_id } } })),
  viewLine: (body: Schemas['LineIn']) => must(client.POST('/api/exercises/line/view', { body })),
  keepLine: (body: Schemas['KeepLineIn']) => must(client.POST('/api/exercises/line', { body })),
  viewExercise: (body: Wish) => must(client.POST('/api/exercises/view', { body })),
  hearExercise: (body: Schemas['SoundIn']) =>
    must(client.POST('/api/exercises/sound', { body, parseAs: 'arrayBuffer' })) as Promise<ArrayBuffer>,
  exportExercise: (body: Schemas['ExportIn']) =>
    must(client.POST('/api/exercises/export', { body, parseAs: 'blob' })) as Promise<Blob>,
  /** An exercise as a sheet, or the whole series. */
  printExercise: (body: Wish, whole: boolean) =>
    must(
      client.POST('/api/exercises/sheet', { body, params: { query: { whole, names: naming.is } }, parseAs: 'blob' }),
    ) as Promise<Blob>,
  printDay: (player_id: string, body: DayIn) =>
    must(
      client.POST('/api/players/{player_id}/day/sheet', {
        params: { path: { player_id }, query: { names: naming.is } },
        body,
        parseAs: 'blob',
      }),
    ) as Promise<Blob>,
  paperUrl: (player_id: string, name: string) => `/api/players/${encodeURIComponent(player_id)}/${name}`,
  /** A sheet names notes as this window does. */
  sheetUrl: (player_id: string, name: string, query: Record<string, string> = {}) =>
    `/api/players/${encodeURIComponent(player_id)}/${name}?${new URLSearchParams({ names: naming.is, ...query })}`,
  soundAs: (take_id: string, form: 'flac' | 'wav' | 'mp3') => `/api/takes/${encodeURIComponent(take_id)}/sound.${form}`,
  ownExercises: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/exercises', { params: { path: { player_id } } })),
  keepExercise: (body: Schemas['KeepIn']) => must(client.POST('/api/exercises/keep', { body })),
  forgetExercise: (player_id: string, own_id: string) =>
    must(client.DELETE('/api/players/{player_id}/exercises/{own_id}', { params: { path: { player_id, own_id } } })),
  importExercise: (player_id: string, file: File, semitones: number) =>
    must(
      client.POST('/api/players/{player_id}/exercises', {
        params: { path: { player_id } },
        body: { file: file as unknown as string, name: '', semitones },
        bodySerializer: () => {
          const form = new FormData();
          form.append('file', file);
          form.append('semitones', String(semitones));
          return form;
        },
      }),
    ),
  openSession: (body: Schemas['SessionIn']) => must(client.POST('/api/sessions', { body })),
  session: (session_id: string) => must(client.GET('/api/sessions/{session_id}', { params: { path: { session_id } } })),
  latestSession: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/session', { params: { path: { player_id } } })),
  exercise: (session_id: string) =>
    must(client.GET('/api/sessions/{session_id}/exercise', { params: { path: { session_id } } })),
  day: (player_id: string) => must(client.GET('/api/players/{player_id}/day', { params: { path: { player_id } } })),
  health: () => must(client.GET('/api/health')),
  notices: () => must(client.GET('/api/notices')),
  brokenTakes: () => must(client.GET('/api/broken-takes')),
  seenBrokenTake: (take_id: string) =>
    must(client.DELETE('/api/broken-takes/{take_id}', { params: { path: { take_id } } })),
  planDay: (player_id: string, body: DayIn) =>
    must(client.POST('/api/players/{player_id}/day/plan', { params: { path: { player_id } }, body })),
  openDay: (player_id: string, body: DayIn) =>
    must(client.POST('/api/players/{player_id}/day', { params: { path: { player_id } }, body })),
  weeks: (player_id: string, query: { since?: string; count?: number } = {}) =>
    must(client.GET('/api/players/{player_id}/weeks', { params: { path: { player_id }, query } })),
  paths: (player_id: string) => must(client.GET('/api/players/{player_id}/paths', { params: { path: { player_id } } })),
  setStep: (player_id: string, exercise_type: string, step: number) =>
    must(
      client.PUT('/api/players/{player_id}/paths/{exercise_type}', {
        params: { path: { player_id, exercise_type } },
        body: { step },
      }),
    ),
  progress: (player_id: string, weeks: number) =>
    must(client.GET('/api/players/{player_id}/progress', { params: { path: { player_id }, query: { weeks } } })),
  goals: (player_id: string) => must(client.GET('/api/players/{player_id}/goals', { params: { path: { player_id } } })),
  addGoal: (player_id: string, body: Schemas['GoalIn']) =>
    must(client.POST('/api/players/{player_id}/goals', { params: { path: { player_id } }, body })),
  changeGoal: (player_id: string, goal_id: string, body: Schemas['GoalChange']) =>
    must(
      client.PUT('/api/players/{player_id}/goals/{goal_id}', {
        params: { path: { player_id, goal_id } },
        body,
      }),
    ),
  routines: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/routines', { params: { path: { player_id } } })),
  keepRoutine: (player_id: string, body: Schemas['RoutineIn']) =>
    must(client.POST('/api/players/{player_id}/routines', { params: { path: { player_id } }, body })),
  dropRoutine: (player_id: string, routine_id: string) =>
    must(
      client.DELETE('/api/players/{player_id}/routines/{routine_id}', { params: { path: { player_id, routine_id } } }),
    ),
  takesLike: (take_id: string) => must(client.GET('/api/takes/{take_id}/like', { params: { path: { take_id } } })),
  changeSettings: (player_id: string, body: Partial<SettingsChange>) =>
    must(
      client.PATCH('/api/players/{player_id}/settings', {
        params: { path: { player_id } },
        body: body as SettingsChange,
      }),
    ),
  rangeSummary: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/range', { params: { path: { player_id } } })),
  simulateTake: (session_id: string) =>
    must(
      client.POST('/api/sessions/{session_id}/simulated-take', {
        params: { path: { session_id } },
        body: { manner: 'person' },
      }),
    ),
  sung: (session_id: string, samples: Blob, rate: number) =>
    must(
      client.POST('/api/sessions/{session_id}/sung', {
        params: { path: { session_id } },
        body: { samples: samples as unknown as string, rate },
        bodySerializer: () => {
          const form = new FormData();
          form.append('samples', samples);
          form.append('rate', String(rate));
          return form;
        },
      }),
    ),
  viewCalendar: (player_id: string, file: File) =>
    must(
      client.POST('/api/players/{player_id}/calendar/view', {
        params: { path: { player_id } },
        body: { file: file as unknown as string },
        bodySerializer: () => {
          const form = new FormData();
          form.append('file', file);
          return form;
        },
      }),
    ),
  playedLine: (player_id: string, tempo: number, samples: Blob, rate: number) =>
    must(
      client.POST('/api/exercises/line/played', {
        body: { player_id, tempo, samples: samples as unknown as string, rate },
        bodySerializer: () => {
          const form = new FormData();
          form.append('player_id', player_id);
          form.append('tempo', String(tempo));
          form.append('samples', samples);
          form.append('rate', String(rate));
          return form;
        },
      }),
    ),
  idealUrl: (take_id: string) => `/api/takes/${encodeURIComponent(take_id)}/ideal`,
  pair: (body: Schemas['PairIn']) => must(client.POST('/api/pair', { body })),
  stand: () => must(client.GET('/api/stand')),
  switchStand: (body: Schemas['StandIn']) => must(client.PUT('/api/stand', { body })),
  standCode: () => must(client.POST('/api/stand/code')),
  giveRights: (device_id: string, rights: Schemas['RightsIn']['rights']) =>
    must(client.PUT('/api/stand/devices/{device_id}', { params: { path: { device_id } }, body: { rights } })),
  removeDevice: (device_id: string) =>
    must(client.DELETE('/api/stand/devices/{device_id}', { params: { path: { device_id } } })),
  copies: () => must(client.GET('/api/copies')),
  makeCopy: () => must(client.POST('/api/copies')),
  restoreCopy: (name: string) => must(client.POST('/api/copies/{name}/restore', { params: { path: { name } } })),
  household: () => must(client.GET('/api/household')),
  classOfTheWeek: () => must(client.GET('/api/class')),
  giveGoal: (body: Schemas['ClassGoalIn']) => must(client.POST('/api/class/goals', { body })),
  giveLesson: (exchange_id: string, players: string[], added: boolean) =>
    must(
      client.POST('/api/exchanges/{exchange_id}/given', {
        params: { path: { exchange_id } },
        body: { players, added },
      }),
    ),
  sizes: (player_id: string, keeping: Keeping, days: number) =>
    must(client.GET('/api/players/{player_id}/sound', { params: { path: { player_id }, query: { keeping, days } } })),
  bringIn: (file: File) =>
    must(
      client.POST('/api/import', {
        body: file as unknown as string,
        bodySerializer: (body) => body as unknown as Blob,
      }),
    ),
  marks: (take_id: string) => must(client.GET('/api/takes/{take_id}/marks', { params: { path: { take_id } } })),
  addMark: (take_id: string, body: Schemas['MarkIn']) =>
    must(client.POST('/api/takes/{take_id}/marks', { params: { path: { take_id } }, body })),
  dropMark: (take_id: string, mark_id: string) =>
    must(client.DELETE('/api/takes/{take_id}/marks/{mark_id}', { params: { path: { take_id, mark_id } } })),
  exchanges: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/exchanges', { params: { path: { player_id } } })),
  exchange: (exchange_id: string) =>
    must(client.GET('/api/exchanges/{exchange_id}', { params: { path: { exchange_id } } })),
  exchangeFile: (exchange_id: string) => `/api/exchanges/${encodeURIComponent(exchange_id)}/file`,
  exchangeChecksum: (exchange_id: string) =>
    must(client.GET('/api/exchanges/{exchange_id}/checksum', { params: { path: { exchange_id } } })),
  openExchange: (player_id: string, file: File) =>
    must(
      client.POST('/api/players/{player_id}/exchanges', {
        params: { path: { player_id } },
        body: file as unknown as string,
        bodySerializer: (body) => body as unknown as Blob,
      }),
    ),
  dropExchange: (exchange_id: string) =>
    must(client.DELETE('/api/exchanges/{exchange_id}', { params: { path: { exchange_id } } })),
  makeReviewRequest: (player_id: string, body: Schemas['ReviewRequestIn']) =>
    must(client.POST('/api/players/{player_id}/review-requests', { params: { path: { player_id } }, body })),
  makeLesson: (player_id: string, body: Schemas['LessonIn']) =>
    must(client.POST('/api/players/{player_id}/lessons', { params: { path: { player_id } }, body })),
  answerExchange: (exchange_id: string, body: Schemas['AnswerIn']) =>
    must(client.PUT('/api/exchanges/{exchange_id}/answer', { params: { path: { exchange_id } }, body })),
  takeOverParts: (player_id: string, exchange_id: string, parts: string[]) =>
    must(
      client.POST('/api/players/{player_id}/exchanges/{exchange_id}/taken', {
        params: { path: { player_id, exchange_id } },
        body: { parts },
      }),
    ),
  importProgress: () => must(client.GET('/api/import')),
  stopImport: () => must(client.DELETE('/api/import')),
  checkRecord: () => must(client.POST('/api/check')),
  remeasuring: () => must(client.GET('/api/remeasuring')),
  startRemeasuring: () => must(client.POST('/api/remeasuring')),
  stopRemeasuring: () => must(client.DELETE('/api/remeasuring')),
  forgetPlayer: (player_id: string) =>
    must(client.DELETE('/api/players/{player_id}', { params: { path: { player_id } } })),
  forgetSession: (session_id: string) =>
    must(client.DELETE('/api/sessions/{session_id}', { params: { path: { session_id } } })),
  forgetSound: (take_id: string) =>
    must(client.DELETE('/api/takes/{take_id}/sound', { params: { path: { take_id } } })),
  forgetTake: (take_id: string) => must(client.DELETE('/api/takes/{take_id}', { params: { path: { take_id } } })),
  compareSpans: (player_id: string, first: Dates, last: Dates) =>
    must(
      client.GET('/api/players/{player_id}/spans', {
        params: {
          path: { player_id },
          query: { first_from: first.from, first_to: first.to, last_from: last.from, last_to: last.to },
        },
      }),
    ),
  thenAndNow: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/then-and-now', { params: { path: { player_id } } })),
  thrownAway: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/thrown-away', { params: { path: { player_id } } })),
  sessionReport: (session_id: string) =>
    must(client.GET('/api/sessions/{session_id}/page', { params: { path: { session_id } } })),
  remarkSession: (session_id: string, remark: string) =>
    must(client.PUT('/api/sessions/{session_id}/remark', { params: { path: { session_id } }, body: { remark } })),
  log: (player_id: string, offset: number, wanted: Sought = {}) =>
    must(client.GET('/api/players/{player_id}/log', { params: { path: { player_id }, query: { offset, ...wanted } } })),
  reasons: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/reasons', { params: { path: { player_id } } })),
  instrumentsPlayed: (player_id: string) =>
    must(client.GET('/api/players/{player_id}/instruments-played', { params: { path: { player_id } } })),
  sessionTakes: (session_id: string) =>
    must(client.GET('/api/sessions/{session_id}/takes', { params: { path: { session_id } } })),
  take: (take_id: string) => must(client.GET('/api/takes/{take_id}', { params: { path: { take_id } } })),
  takeExercise: (take_id: string) =>
    must(client.GET('/api/takes/{take_id}/exercise', { params: { path: { take_id } } })),
  takeTrace: (take_id: string) => must(client.GET('/api/takes/{take_id}/trace', { params: { path: { take_id } } })),
  discard: (take_id: string, discarded: boolean) =>
    must(client.PUT('/api/takes/{take_id}/discarded', { params: { path: { take_id } }, body: { discarded } })),
  remark: (take_id: string, remark: string) =>
    must(client.PUT('/api/takes/{take_id}/remark', { params: { path: { take_id } }, body: { remark } })),
  openFree: (player_id: string) =>
    must(client.POST('/api/players/{player_id}/free-sessions', { params: { path: { player_id } } })),
  /** A recording of a rehearsal or of practice elsewhere, read part by part. */
  readRecording: (player_id: string, file: File) =>
    must(
      client.POST('/api/players/{player_id}/free-recordings', {
        params: { path: { player_id } },
        body: file as unknown as string,
        bodySerializer: (body) => body as unknown as Blob,
      }),
    ),
  recordingProgress: () => must(client.GET('/api/free-recordings')),
  stopRecording: () => must(client.DELETE('/api/free-recordings')),
  exercisesPlayed: (session_id: string) =>
    must(client.GET('/api/sessions/{session_id}/exercises-played', { params: { path: { session_id } } })),
  judgeAs: (take_id: string, body: Schemas['JudgeAsIn']) =>
    must(client.POST('/api/takes/{take_id}/judged-as', { params: { path: { take_id } }, body })),
  freeReading: (session_id: string) =>
    must(client.GET('/api/sessions/{session_id}/free-reading', { params: { path: { session_id } } })),
  tuner: (player_id: string, query: TunerQuery) =>
    must(client.GET('/api/players/{player_id}/tuner', { params: { path: { player_id }, query } })),
  drone: (player_id: string, query: DroneQuery) =>
    must(client.GET('/api/players/{player_id}/drone', { params: { path: { player_id }, query } })),
  playFreely: (player_id: string, seconds: number) =>
    must(
      client.POST('/api/players/{player_id}/free-performance', {
        params: { path: { player_id } },
        body: { seconds },
        parseAs: 'arrayBuffer',
      }),
    ) as Promise<ArrayBuffer>,
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
  checkDevice: (samples: Blob, about: CheckAbout) =>
    must(
      client.POST('/api/device-checks', {
        body: { samples: samples as unknown as string, about: JSON.stringify(about) },
        bodySerializer: () => {
          const form = new FormData();
          form.append('samples', samples);
          form.append('about', JSON.stringify(about));
          return form;
        },
      }),
    ),
  devices: () => must(client.GET('/api/devices')),
  soundUrl: (take_id: string) => `/api/takes/${encodeURIComponent(take_id)}/sound`,
};
