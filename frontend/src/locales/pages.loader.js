/** Words in the language of this page: each file brings its own, and asks here for those of the language in use. */
import toRuntime from 'wuchale/runtime';
import { locale } from './locale.js';

export const getRuntime = (/** @type {Record<string, import('wuchale/runtime').CatalogModule>} */ words) =>
  toRuntime(words[locale], locale);
export const getRuntimeRx = getRuntime;
