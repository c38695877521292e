import { createRouter } from 'sv-router';

/** Each view is a file of its own, fetched when it is first shown. All of them: the router takes a view that is here already for one to fetch. */
const views = {
  classOfTheWeek: () => import('../views/Class.svelte'),
  exercise: () => import('../views/ExerciseView.svelte'),
  exercises: () => import('../views/Exercises.svelte'),
  help: () => import('../views/Help.svelte'),
  instrument: () => import('../views/Instrument.svelte'),
  justPlay: () => import('../views/JustPlay.svelte'),
  lesson: () => import('../views/LessonView.svelte'),
  lessons: () => import('../views/Lessons.svelte'),
  moved: () => import('../views/Moved.svelte'),
  notFound: () => import('../views/NotFound.svelte'),
  plan: () => import('../views/Plan.svelte'),
  progress: () => import('../views/Progress.svelte'),
  range: () => import('../views/Range.svelte'),
  session: () => import('../views/SessionView.svelte'),
  sessions: () => import('../views/Sessions.svelte'),
  settings: () => import('../views/Settings.svelte'),
  stand: () => import('../views/Stand.svelte'),
  take: () => import('../views/TakeView.svelte'),
  today: () => import('../views/Today.svelte'),
  welcome: () => import('../views/Welcome.svelte'),
  write: () => import('../views/WriteExercise.svelte'),
  who: () => import('../views/WhoPlays.svelte'),
};

export const { p, navigate, isActive, route } = createRouter({
  '/': views.today,
  '/play': views.justPlay,
  '/plan': views.plan,
  '/exercises': views.exercises,
  '/exercises/write': views.write,
  '/exercises/:id': views.exercise,
  '/progress': views.progress,
  '/progress/range': views.range,
  '/progress/sessions': views.sessions,
  '/instrument': views.instrument,
  '/session/:id': views.session,
  '/take/:id': views.take,
  '/stand/:id': views.stand,
  '/lessons': views.lessons,
  '/lessons/:id': views.lesson,
  '/settings': views.settings,
  '/help': views.help,
  '/welcome': views.welcome,
  '/who': views.who,
  '/class': views.classOfTheWeek,
  // Addresses of earlier releases.
  '/weeks': views.moved,
  '/figures': views.moved,
  '/ladder': views.moved,
  '/log': views.moved,
  '/horn': views.moved,
  '*': views.notFound,
});

/** Fetch all views while nothing else happens, so that a lost connection keeps nobody from another page. */
export function fetchViews(): void {
  const later = window.requestIdleCallback ?? ((work: () => void) => setTimeout(work, 2000));
  later(() => void Promise.allSettled(Object.values(views).map((view) => view())));
}
