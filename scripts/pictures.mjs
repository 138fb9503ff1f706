// Takes the pictures of docs/screenshots from a running demo: node scripts/pictures.mjs [http://127.0.0.1:5080] [folder] [name ...]
// Speaks the WebDriver protocol to Debian's ChromeDriver, so that it needs no package of its own.
import { spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'

const base = process.argv[2] ?? 'http://127.0.0.1:5080'
const folder = process.argv[3] ?? 'docs/screenshots'
const only = process.argv.slice(4)
const desk = [1280, 800]
const phone = [390, 844]

const port = await new Promise((done) => {
  const server = createServer().listen(0, '127.0.0.1', () => {
    const { port } = server.address()
    server.close(() => done(port))
  })
})
const driver = spawn('chromedriver', [`--port=${port}`], { stdio: 'ignore' })
const call = async (method, path, body) => {
  const answer = await fetch(`http://127.0.0.1:${port}${path}`, { method, body: body && JSON.stringify(body) })
  const { value } = await answer.json()
  if (value?.error) throw new Error(`${path}: ${value.message}`)
  return value
}
const sleep = (ms) => new Promise((done) => setTimeout(done, ms))
for (let i = 0; i < 50; i++) {
  try {
    await call('GET', '/status')
    break
  } catch {
    await sleep(100)
  }
}

async function browser([width, height]) {
  const args = ['--headless=new', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
    '--disable-component-update', '--disable-sync', '--hide-scrollbars', `--window-size=${Math.max(500, width)},${height}`,
    `--user-data-dir=${mkdtempSync(join(tmpdir(), 'vg-'))}`]
  const options = { args, binary: '/usr/bin/chromium', ...(width < 500 && { mobileEmulation: { deviceMetrics: { width, height, pixelRatio: 2 } } }) }
  const { sessionId } = await call('POST', '/session', { capabilities: { alwaysMatch: { browserName: 'chrome', 'goog:chromeOptions': options } } })
  const at = `/session/${sessionId}`
  if (width >= 500) {
    const inner = await call('POST', `${at}/execute/sync`, { script: 'return [outerWidth-innerWidth, outerHeight-innerHeight]', args: [] })
    await call('POST', `${at}/window/rect`, { width: width + inner[0], height: height + inner[1] })
  }
  return {
    go: (path) => call('POST', `${at}/url`, { url: base + path }),
    run: (script, ...values) => call('POST', `${at}/execute/async`, { script: `const done = arguments[arguments.length - 1]; (async (...a) => { ${script} })(...arguments).then((v) => done(v ?? null), (e) => done(String(e)))`, args: values }),
    picture: async (name) => {
      mkdirSync(folder, { recursive: true })
      writeFileSync(join(folder, `${name}.png`), Buffer.from(await call('GET', `${at}/screenshot`), 'base64'))
      console.log(resolve(folder, `${name}.png`))
    },
    quit: () => call('DELETE', at),
  }
}

const signIn = `const post = (path, body, headers) => fetch(path, { method: 'POST', headers: { 'Content-Type': 'application/json', ...headers }, body: JSON.stringify(body) }).then((r) => r.json());
  const made = await post('/api/sign-in', { name: a[0], password: 'ropewalk' }); return made.antiforgeryToken`
const settle = `const until = Date.now() + 6000; while (Date.now() < until && document.querySelector('[role=status].quiet, .unasked')) await new Promise((r) => setTimeout(r, 50)); await document.fonts.ready; await new Promise((r) => setTimeout(r, 500))`

/** A drawing for the bench, put in once for the person signed in; gives its id. */
const drawing = `const token = a[0]; const have = await fetch('/api/drawings').then((r) => r.json());
  const found = have.items.find((d) => d.name === 'lantern-panel.svg'); if (found) return found.id;
  const form = new FormData(); form.append('file', new File([a[1]], 'lantern-panel.svg', { type: 'image/svg+xml' }));
  return (await fetch('/api/drawings', { method: 'POST', headers: { 'X-Velvet-Gate': token }, body: form }).then((r) => r.json())).id`
const panes = [0, 1].flatMap((row) => [0, 1].map((col) => `<rect x="${30 + col * 55}" y="${120 + row * 45}" width="55" height="45"/>`)).join('')
const lantern = `<svg xmlns="http://www.w3.org/2000/svg" width="170mm" height="261mm" viewBox="0 0 170 261"><g fill="none" stroke="#f00">
<path d="M12 70Q12 50 62 34Q68 8 85 8Q102 8 108 34Q158 50 158 70V248H12Z"/><circle cx="85" cy="22" r="7"/>${panes}<path d="M30 112A55 45 0 0 1 140 112Z"/></g>
<g fill="none" stroke="#00f"><path d="M20 78V240H150V78Q148 62 85 44Q22 62 20 78Z"/></g>
<path d="M85 214l4 9 9 1-7 6 2 9-8-5-8 5 2-9-7-6 9-1Z"/><path d="M40 232h24" fill="none" stroke="#0a0"/></svg>`

const tomorrow = 'const d = await fetch("/api/house/day").then((r) => r.json()); const n = await fetch("/api/house/day?date=" + d.next).then((r) => r.json()); return n.slots.find((s) => s.label === "18:00").at'
/** The soonest start from tomorrow evening at which the member's plywood opens the gate. */
const free = `const [start, token] = a; const body = { machineId: 'heron', materialId: 'birch-ply-laser', thickness: '3 mm', operations: ['cut', 'score', 'engrave'], sheetTag: 'S-0097', runMinutes: 18, start };
  const answer = await fetch('/api/gate/ask', { method: 'POST', headers: { 'Content-Type': 'application/json', 'X-Velvet-Gate': token }, body: JSON.stringify(body) }).then((r) => r.json());
  return answer.soonest?.start ?? start`
const ask = (start, more) => `/ask?${new URLSearchParams({ operations: 'cut', thickness: '3 mm', machine: 'heron', start, ...more })}`

const views = {
  'sign-in': { size: desk, path: () => '/' },
  watch: { who: 'steward', size: desk, path: () => '/watch' },
  'ask-shut': { who: 'newcomer', size: desk, path: async (b) => ask(await b.run(tomorrow), { material: 'birch-ply-laser', tag: 'S-0118', run: '18' }) },
  'ask-conditions': { who: 'member', size: desk, path: async (b, token) => ask(await b.run(free, await b.run(tomorrow), token), { material: 'birch-ply-laser', tag: 'S-0097', operations: 'cut,score,engrave', run: '18' }) },
  'ask-phone': { who: 'newcomer', size: phone, path: async (b) => ask(await b.run(tomorrow), { material: 'birch-ply-laser', tag: 'S-0118', run: '18' }) },
  materials: { who: 'member', size: desk, path: () => '/materials?material=leather-pvc' },
  sheet: { who: 'steward', size: desk, path: () => '/sheets/S-0118' },
  list: { size: desk, path: () => '/list' },
  training: { who: 'trainer', size: desk, path: () => '/training?person=m-5' },
  ladder: { who: 'newcomer', size: desk, path: () => '/training/ladder' },
  bench: { who: 'member', size: desk, path: async (b, token) => `/bench/${await b.run(drawing, token, lantern)}` },
  bookings: { who: 'member', size: desk, path: () => '/bookings' },
  machines: { who: 'steward', size: desk, path: () => '/machines' },
  records: { who: 'steward', size: desk, path: () => '/records' },
  'house-rules': { who: 'keeper', size: desk, path: () => '/house/rules' },
  calendar: { who: 'steward', size: desk, path: () => '/house/calendar' },
  emergency: { size: desk, path: () => '/emergency/wren' },
  // From a server started with --empty: only when named.
  'set-up': { size: desk, path: () => '/', named: true },
  practical: { who: 'trainer', size: desk, path: async (b) => `/training/practical/${await b.run('return (await fetch("/api/practicals?person=m-57").then((r) => r.json())).items[0].id')}` },
}
for (const extra of only.filter((o) => o.includes('='))) {
  // Any other view for a look: NAME=who@path or NAME=who@path@phone
  const [name, rest] = extra.split(/=(.*)/s)
  const [who, path, size] = rest.split('@')
  views[name] = { who, size: size === 'phone' ? phone : desk, path: () => path }
}

let failed = 0
try {
  for (const [name, view] of Object.entries(views)) {
    if (view.named && !only.includes(name)) continue
    if (only.length && !only.some((o) => o.split('=')[0] === name)) continue
    const page = await browser(view.size)
    try {
      await page.go('/')
      const token = view.who && (await page.run(signIn, view.who))
      await page.go(await view.path(page, token))
      await page.run(settle)
      await page.picture(name)
    } catch (error) {
      failed++
      console.error(`${name}: ${error.message}`)
    } finally {
      await page.quit()
    }
  }
} finally {
  driver.kill()
}
process.exit(failed ? 1 : 0)
