/** The five places of the application, and where addresses of earlier releases have gone. */
import CalendarDays from '@lucide/svelte/icons/calendar-days';
import ChartLine from '@lucide/svelte/icons/chart-line';
import ListMusic from '@lucide/svelte/icons/list-music';
import Ruler from '@lucide/svelte/icons/ruler';
import Sunrise from '@lucide/svelte/icons/sunrise';

export const PLACES = [
  { href: '/', name: 'Today', icon: Sunrise, also: [] },
  { href: '/plan', name: 'Plan', icon: CalendarDays, also: [] },
  { href: '/exercises', name: 'Exercises', icon: ListMusic, also: ['/exercises/'] },
  { href: '/progress', name: 'Progress', icon: ChartLine, also: ['/progress/', '/session/', '/take/'] },
  { href: '/instrument', name: 'Instrument', icon: Ruler, also: [] },
] as const;

export const MOVED: Record<string, (typeof PLACES)[number]['href'] | '/progress/range' | '/progress/sessions'> = {
  '/weeks': '/plan',
  '/figures': '/exercises',
  '/ladder': '/progress/range',
  '/log': '/progress/sessions',
  '/horn': '/instrument',
};

/** Whether a place is the one that is shown. */
export function isHere(place: (typeof PLACES)[number], path: string): boolean {
  return path === place.href || place.also.some((start) => path.startsWith(start));
}
