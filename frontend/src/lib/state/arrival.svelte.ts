/** What was just opened, for the page that shows it; gone with the window. */
import type { Opened } from '../api/client';

export const arrival = $state<{ came: Opened | null }>({ came: null });
