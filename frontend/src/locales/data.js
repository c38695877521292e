/** @typedef {('en'|'de'|'fr'|'es')} Locale */
/** @type {Locale[]} */
export const locales = ['en','de','fr','es']