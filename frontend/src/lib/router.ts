import { createRouter } from 'sv-router';

/** Each view is a file of its own, fetched when it is first shown. All of them: the router takes a view that is here already for one to fetch. */
const views = {
  figures: () => import('../views/Figures.svelte'),
  horn: () => import('../views/Horn.svelte'),
  ladder: () => import('../views/Ladder.svelte'),
  lessons: () => import('../views/Lessons.svelte'),
  log: () => import('../views/Log.svelte'),
  notFound: () => import('../views/NotFound.svelte'),
  parcel: () => import('../views/ParcelView.svelte'),
  progress: () => import('../views/Progress.svelte'),
  sitting: () => import('../views/Sitting.svelte'),
  settings: () => import('../views/Settings.svelte'),
  stand: () => import('../views/Stand.svelte'),
  take: () => import('../views/TakeView.svelte'),
  today: () => import('../views/Today.svelte'),
  weeks: () => import('../views/Weeks.svelte'),
  welcome: () => import('../views/Welcome.svelte'),
  who: () => import('../views/WhoPlays.svelte'),
};

export const { p, navigate, isActive, route } = createRouter({
  '/': views.today,
  '/welcome': views.welcome,
  '/who': views.who,
  '/stand/:id': views.stand,
  '/session/:id': views.sitting,
  '/take/:id': views.take,
  '/figures': views.figures,
  '/horn': views.horn,
  '/ladder': views.ladder,
  '/log': views.log,
  '/lessons': views.lessons,
  '/lessons/:id': views.parcel,
  '/weeks': views.weeks,
  '/progress': views.progress,
  '/settings': views.settings,
  '*': views.notFound,
});

/** Fetch all views while nothing else happens, so that a lost connection keeps nobody from another page. */
export function fetchViews(): void {
  const later = window.requestIdleCallback ?? ((work: () => void) => setTimeout(work, 2000));
  later(() => void Promise.allSettled(Object.values(views).map((view) => view())));
}
