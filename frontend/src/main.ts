import { mount } from 'svelte';
import App from './App.svelte';
import './app.css';
import { tag } from './locales/locale.js';

document.documentElement.lang = tag;

const target = document.getElementById('app');
if (target) mount(App, { target });

// On a device at the stand: the shell opens at once, and says so when the server sleeps.
if (import.meta.env.PROD && 'serviceWorker' in navigator) {
  void navigator.serviceWorker.register('/sw.js').catch(() => undefined);
}
