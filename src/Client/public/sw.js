// Keeps the emergency cards readable when the network is gone. Nothing else is kept.
const KEPT = 'velvetgate-emergency-2'
const MOST = 120

self.addEventListener('install', () => self.skipWaiting())
self.addEventListener('activate', (event) =>
  event.waitUntil(
    caches
      .keys()
      .then((all) => Promise.all(all.filter((name) => name !== KEPT).map((old) => caches.delete(old))))
      .then(() => self.clients.claim()),
  ),
)

async function keep(key, response) {
  if (!response.ok) return response
  const cache = await caches.open(KEPT)
  await cache.put(key, response.clone())
  const keys = await cache.keys()
  // Files of older releases go first.
  await Promise.all(keys.slice(0, Math.max(0, keys.length - MOST)).map((old) => cache.delete(old)))
  return response
}

async function newest(request, key) {
  try {
    const response = await fetch(request)
    // Gone is gone; too busy or broken is no reason to show no card.
    if (response.ok || response.status === 404) return await keep(key, response)
    return (await caches.match(key)) ?? response
  } catch (gone) {
    const kept = await caches.match(key)
    if (kept) return kept
    throw gone
  }
}

self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (request.method !== 'GET' || url.origin !== self.location.origin) return
  if (/^\/emergency\/[^/]+$/.test(url.pathname)) event.respondWith(newest(request, url.pathname))
  else if (url.pathname.startsWith('/assets/'))
    event.respondWith(caches.match(url.pathname).then((kept) => kept ?? fetch(request).then((r) => keep(url.pathname, r))))
})
