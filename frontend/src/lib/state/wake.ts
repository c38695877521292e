/** Keeps the screen awake at the stand; gives back what undoes it. */
export function keepAwake(): () => void {
  let lock: WakeLockSentinel | null = null;
  const ask = () => {
    if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
    navigator.wakeLock.request('screen').then(
      (got) => (lock = got),
      () => undefined,
    );
  };
  ask();
  document.addEventListener('visibilitychange', ask);
  return () => {
    document.removeEventListener('visibilitychange', ask);
    void lock?.release();
  };
}
