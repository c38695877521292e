/** @typedef {('en')} Locale */
/** @type {Locale[]} */
export const locales = ['en']