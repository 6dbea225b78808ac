// Keeps the files of the application on the device, so that it opens without a connection. What the server says under /api/ is never kept
// here: the page keeps what it needs of it, by person.
const cache = 'hodos-__MARK__'
const files = JSON.parse('__FILES__')

self.addEventListener('install', (e) => {
  e.waitUntil(caches.open(cache).then((c) => c.addAll(files)))
})

// a new version takes over when no page of the old one is open: a visit goes on with the files that it began with
self.addEventListener('activate', (e) => {
  e.waitUntil(
    caches
      .keys()
      .then((all) => Promise.all(all.filter((k) => k.startsWith('hodos-') && k !== cache).map((k) => caches.delete(k))))
      .then(() => self.clients.claim()),
  )
})

/** The page of the server while it answers, else the kept one: at the edge of a network nobody waits longer than three seconds. */
async function page(request) {
  const kept = () => caches.match('/', { cacheName: cache })
  const late = new Promise((done) => setTimeout(done, 3000))
  try {
    const fresh = await Promise.race([fetch(request), late])
    return fresh && fresh.status < 500 ? fresh : ((await kept()) ?? fresh ?? Response.error())
  } catch {
    return (await kept()) ?? Response.error()
  }
}

self.addEventListener('fetch', (e) => {
  const url = new URL(e.request.url)
  if (e.request.method !== 'GET' || url.origin !== location.origin || url.pathname.startsWith('/api/')) return
  if (e.request.mode === 'navigate') return e.respondWith(page(e.request))
  if (files.includes(url.pathname)) {
    e.respondWith(caches.match(url.pathname, { cacheName: cache }).then((kept) => kept ?? fetch(e.request)))
  }
})
