import { createRouter } from 'sv-router';
import Figures from '../views/Figures.svelte';
import Horn from '../views/Horn.svelte';
import Ladder from '../views/Ladder.svelte';
import Lessons from '../views/Lessons.svelte';
import Log from '../views/Log.svelte';
import NotFound from '../views/NotFound.svelte';
import ParcelView from '../views/ParcelView.svelte';
import Progress from '../views/Progress.svelte';
import Sitting from '../views/Sitting.svelte';
import Settings from '../views/Settings.svelte';
import Stand from '../views/Stand.svelte';
import TakeView from '../views/TakeView.svelte';
import Today from '../views/Today.svelte';
import Weeks from '../views/Weeks.svelte';
import WhoPlays from '../views/WhoPlays.svelte';
import Welcome from '../views/Welcome.svelte';

export const { p, navigate, isActive, route } = createRouter({
  '/': Today,
  '/welcome': Welcome,
  '/who': WhoPlays,
  '/stand/:id': Stand,
  '/session/:id': Sitting,
  '/take/:id': TakeView,
  '/figures': Figures,
  '/horn': Horn,
  '/ladder': Ladder,
  '/log': Log,
  '/lessons': Lessons,
  '/lessons/:id': ParcelView,
  '/weeks': Weeks,
  '/progress': Progress,
  '/settings': Settings,
  '*': NotFound,
});
