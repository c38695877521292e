import { createRouter } from 'sv-router';
import Log from '../views/Log.svelte';
import Settings from '../views/Settings.svelte';
import Stand from '../views/Stand.svelte';
import TakeView from '../views/TakeView.svelte';
import Today from '../views/Today.svelte';
import Welcome from '../views/Welcome.svelte';

export const { p, navigate, isActive, route } = createRouter({
  '/': Today,
  '/welcome': Welcome,
  '/stand/:id': Stand,
  '/take/:id': TakeView,
  '/log': Log,
  '/settings': Settings,
  '*': Today,
});
