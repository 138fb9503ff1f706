// Keeps what people need when the network is gone: the emergency cards and the page for near misses. Nothing else is kept.
const KEPT = 'velvetgate-offline-3'
const PAGES = /^\/(emergency(\/[^/]+)?|near-miss(\/[^/]+)?)$/

// A page that is kept for one machine stands in for another's: what happened is what counts.
const keyOf = (path) => (path.startsWith('/near-miss') ? '/near-miss' : path)

/** Everything the build and the house name, so that no card has to be looked at before it is needed. */
async function keepAll() {
  const list = await (await fetch('/offline.json')).json()
  const cache = await caches.open(KEPT)
  const have = new Set((await cache.keys()).map((request) => new URL(request.url).pathname))
  const wanted = [...list.pages, ...list.files.filter((file) => !have.has(file))]
  await Promise.all(
    wanted.map(async (path) => {
      try {
        const response = await fetch(path)
        if (response.ok) await cache.put(path, response)
      } catch {
        // What cannot be had now stays as it was.
      }
    }),
  )
  // Files of older releases, and cards of machines that are gone.
  const now = new Set([...list.pages, ...list.files])
  await Promise.all([...have].filter((path) => !now.has(path)).map((path) => cache.delete(path)))
}

self.addEventListener('install', (event) => {
  void self.skipWaiting()
  event.waitUntil(keepAll().catch(() => undefined))
})
self.addEventListener('activate', (event) =>
  event.waitUntil(
    caches
      .keys()
      .then((all) => Promise.all(all.filter((name) => name !== KEPT).map((old) => caches.delete(old))))
      .then(() => self.clients.claim()),
  ),
)
// Pages of the house ask for it as they open.
self.addEventListener('message', (event) => {
  if (event.data === 'keep') event.waitUntil(keepAll().catch(() => undefined))
})

async function newest(request, key) {
  const kept = () => caches.match(key)
  try {
    const response = await fetch(request)
    // Gone is gone; too busy or broken is no reason to show no card.
    if (response.status === 404) return response
    if (!response.ok) return (await kept()) ?? response
    const cache = await caches.open(KEPT)
    await cache.put(key, response.clone())
    return response
  } catch (gone) {
    const found = await kept()
    if (found) return found
    throw gone
  }
}

self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (request.method !== 'GET' || url.origin !== self.location.origin) return
  if (PAGES.test(url.pathname)) event.respondWith(newest(request, keyOf(url.pathname)))
  else if (url.pathname.startsWith('/assets/') || url.pathname === '/mark.svg')
    event.respondWith(caches.match(url.pathname).then((found) => found ?? fetch(request)))
})
