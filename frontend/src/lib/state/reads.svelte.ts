/** What pages read: asked once for all who want the same, shown at once from memory, and asked again when a page is opened or a
 * command was carried out. */
import { createQuery, QueryClient, skipToken } from '@tanstack/svelte-query';
import { api, onCommand } from '../api/client';
import { words } from './loaded.svelte';

type Api = typeof api;
type Name = { [K in keyof Api]: Api[K] extends (...given: never[]) => Promise<unknown> ? K : never }[keyof Api];
type Asked<T> = { key: readonly unknown[]; get: () => Promise<T> };
export type Reads<T> = { readonly value: T | null; readonly trouble: string | null; again: () => Promise<unknown> };

const memory = new QueryClient({
  defaultOptions: {
    queries: { retry: false, networkMode: 'always', refetchOnWindowFocus: false },
  },
});
onCommand(() => void memory.invalidateQueries());

/** A call of the interface with what it is given: those who ask the same share one answer. */
export function ask<K extends Name>(name: K, ...given: Parameters<Api[K]>): Asked<Awaited<ReturnType<Api[K]>>> {
  const call = api[name] as unknown as (...given: unknown[]) => Promise<Awaited<ReturnType<Api[K]>>>;
  return { key: [name, ...given], get: () => call(...given) };
}

/** The answer to what is asked now, nothing while nothing is asked. A failure keeps the value that was there. */
export function reads<T>(asked: () => Asked<T> | null | undefined | false | ''): Reads<T> {
  const now = $derived(asked() || null);
  const query = createQuery<unknown>(
    () => ({
      queryKey: now?.key ?? ['nothing'],
      queryFn: now ? now.get : skipToken,
      // Until a new span or page of the same player's is there, the old one stays; another player's never does.
      placeholderData: (old: unknown, before: { queryKey: readonly unknown[] } | undefined) =>
        before && before.queryKey[1] === now?.key[1] ? old : undefined,
    }),
    () => memory,
  );
  return {
    get value() {
      return now ? ((query.data as T | undefined) ?? null) : null;
    },
    get trouble() {
      return now && query.error ? words(query.error) : null;
    },
    again: () => query.refetch(),
  };
}

/** Much has happened that no command of this page told of: a session was played. */
export function forgetReads(): void {
  memory.removeQueries({ type: 'inactive' });
  void memory.invalidateQueries();
}
