// Keeps what people need when the network is gone: the emergency cards, the machines' pages, the page for near misses and the screen at a
// machine without anything of a session. Nothing else is kept.
const KEPT = 'velvetgate-offline-4'
const PAGES = /^\/(emergency(\/[^/]+)?|near-miss(\/[^/]+)?|at\/[^/]+|station(\/[^/]+)?)$/

// A page that is kept for one machine stands in for another's: what happened is what counts.
const keyOf = (path) => path.match(/^\/(near-miss|station)/)?.[0] ?? path

/** Everything the build and the house name, so that no card has to be looked at before it is needed. */
async function keepAll() {
  const list = await (await fetch('/offline.json')).json()
  const cache = await caches.open(KEPT)
  const have = new Set((await cache.keys()).map((request) => new URL(request.url).pathname))
  const keep = async (path) => {
    try {
      const response = await fetch(path)
      if (!response.ok) return false
      await cache.put(path, response)
      return true
    } catch {
      // What cannot be had now stays as it was.
      return false
    }
  }
  const files = await Promise.all(list.files.filter((file) => !have.has(file)).map(keep))
  // A page without its files is no page: the older one stays, with those it has.
  if (files.includes(false)) return
  await Promise.all(list.pages.map(keep))
  // Files of older releases, and cards of machines that are gone.
  const now = new Set([...list.pages, ...list.files])
  await Promise.all([...have].filter((path) => !now.has(path)).map((path) => cache.delete(path)))
}

self.addEventListener('install', (event) => {
  event.waitUntil(
    (async () => {
      // A new release never takes over while somebody is at a machine: it waits until their screen is left.
      const open = await self.clients.matchAll({ type: 'window', includeUncontrolled: true })
      if (!self.registration.active || !open.some((page) => new URL(page.url).pathname.startsWith('/station/')))
        void self.skipWaiting()
      await keepAll().catch(() => undefined)
    })(),
  )
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
  // The session at the machine is over: a newer release may take over now.
  if (event.data === 'take over') void self.skipWaiting()
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
