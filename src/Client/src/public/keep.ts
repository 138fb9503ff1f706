/** Nobody is tapped in here: a newer service worker that waited for it takes over. */
export function takeOver() {
  if (!('serviceWorker' in navigator)) return
  void navigator.serviceWorker.getRegistration().then((found) => found?.waiting?.postMessage('take over'))
}

/** Has the browser keep cards and the page for near misses, and look whether they are still the newest. */
export function keepForOffline() {
  if (!('serviceWorker' in navigator)) return
  void navigator.serviceWorker.register('/sw.js').catch(() => undefined)
  void navigator.serviceWorker.ready.then((worker) => worker.active?.postMessage('keep'))
}
