// Takes the pictures of docs/screenshots from a running demo: node scripts/pictures.mjs [http://127.0.0.1:5080] [folder] [name ...]
import { mkdirSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { browser, close, signIn } from './browser.mjs'

const base = process.argv[2] ?? 'http://127.0.0.1:5080'
const folder = process.argv[3] ?? 'docs/screenshots'
const only = process.argv.slice(4)
const desk = [1280, 800]
const phone = [390, 844]

const settle = `const until = Date.now() + 6000; while (Date.now() < until && document.querySelector('[role=status].quiet, .unasked')) await new Promise((r) => setTimeout(r, 50)); await document.fonts.ready; await new Promise((r) => setTimeout(r, 500))`

/** A drawing put in once for the person signed in; gives its id. */
const drawing = `const [token, svg, name] = a; const have = await fetch('/api/drawings').then((r) => r.json());
  const found = have.items.find((d) => d.name === name); if (found) return found.id;
  const form = new FormData(); form.append('file', new File([svg], name, { type: 'image/svg+xml' }));
  return (await fetch('/api/drawings', { method: 'POST', headers: { 'X-Velvet-Gate': token }, body: form }).then((r) => r.json())).id`
const panes = [0, 1].flatMap((row) => [0, 1].map((col) => `<rect x="${30 + col * 55}" y="${120 + row * 45}" width="55" height="45"/>`)).join('')
const lantern = `<svg xmlns="http://www.w3.org/2000/svg" width="170mm" height="261mm" viewBox="0 0 170 261"><g fill="none" stroke="#9c2f4f">
<path d="M12 70Q12 50 62 34Q68 8 85 8Q102 8 108 34Q158 50 158 70V248H12Z"/><circle cx="85" cy="22" r="7"/>${panes}<path d="M30 112A55 45 0 0 1 140 112Z"/></g>
<g fill="none" stroke="#2e6e8e"><path d="M20 78V240H150V78Q148 62 85 44Q22 62 20 78Z"/></g>
<path d="M85 214l4 9 9 1-7 6 2 9-8-5-8 5 2-9-7-6 9-1Z"/><path d="M40 232h24" fill="none" stroke="#7a9a3a"/></svg>`

/** The same without its faults, at half the size: what the gate lets run. */
const whole = lantern.replace(panes, '').replace(/<path d="M40 232h24"[^>]*>/, '').replace('170mm', '85mm').replace('261mm', '130.5mm')

const tomorrow = 'const d = await fetch("/api/house/day").then((r) => r.json()); const n = await fetch("/api/house/day?date=" + d.next).then((r) => r.json()); return n.slots.find((s) => s.label === "18:00").at'
/** The soonest start from tomorrow evening at which the member's plywood opens the gate. */
const free = `const [start, token] = a; const body = { machineId: 'heron', materialId: 'birch-ply-laser', thickness: '3 mm', operations: ['cut', 'score', 'engrave'], sheetTag: 'S-0097', runMinutes: 18, start };
  const answer = await fetch('/api/gate/ask', { method: 'POST', headers: { 'Content-Type': 'application/json', 'X-Velvet-Gate': token }, body: JSON.stringify(body) }).then((r) => r.json());
  return answer.soonest?.start ?? start`
const ask = (start, more) => `/ask?${new URLSearchParams({ operations: 'cut', thickness: '3 mm', machine: 'heron', start, ...more })}`

/** A member at Heron, from tapping in to the beam; waits for the extraction as everybody does. */
const running = `const post = async (path, body) => { const r = await fetch(path, { method: 'POST', headers: { 'Content-Type': 'application/json', 'X-Velvet-Gate': a[0] }, body: JSON.stringify(body) }); const j = await r.json(); if (!r.ok) throw new Error(path + ' ' + (body.act ?? '') + ': ' + j.detail); return j };
  const id = () => crypto.randomUUID(); let at = await fetch('/api/stations/heron').then((r) => r.json());
  if (!at.session) {
    if (!at.booking) { const now = Date.parse((await fetch('/api/house').then((r) => r.json())).now); let booked;
      for (let i = 1; i < 3 && !booked; i++) booked = await post('/api/bookings', { id: id(), machineId: 'heron', materialId: 'birch-ply-laser', thickness: '3 mm', operations: ['cut', 'score', 'engrave'], sheetTag: 'S-0097', drawingId: a[1], start: new Date((Math.floor(now / 9e5) + i) * 9e5).toISOString() }).catch(() => null) }
    at = await post('/api/stations/heron/tap', { id: id() }) }
  const act = async (act, more) => { at = await post('/api/stations/heron/act', { act, id: id(), session: at.session.id, version: at.session.version, ...more }) };
  if (at.session.step === 'checks') {
    for (const p of at.session.places) if (p.open) await act('check', { item: p.id, ok: true });
    await act('sheet', { tag: 'S-0097', thickness: ['3 mm', '3.02 mm', '2.98 mm'] }); await act('focus', { method: 'gauge', gaugeBack: true });
    await act('settings', { values: { powerPercent: 60, speedMmPerS: 23, passes: 1 } }); await act('frame', {}); await act('air', { seen: true, assist: true, lidShut: true });
    await act('confirm', { height: true, material: true, stay: true }); await new Promise((r) => setTimeout(r, 91000)); await act('start', { stay: true }); await new Promise((r) => setTimeout(r, 20000)) }
  return at.session.step`

/** The simulated machine's extraction, where there is one. */
const air = (flow) => fetch('http://127.0.0.1:5090/machines/heron', { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ airflowM3PerHour: flow }) }).catch(() => undefined)

const views = {
  watch: { who: 'steward', size: desk, path: () => '/watch' },
  'ask-shut': { who: 'newcomer', size: desk, path: async (b) => ask(await b.run(tomorrow), { material: 'birch-ply-laser', tag: 'S-0118', run: '18' }) },
  'ask-conditions': { who: 'member', size: desk, path: async (b, token) => ask(await b.run(free, await b.run(tomorrow), token), { material: 'birch-ply-laser', tag: 'S-0097', operations: 'cut,score,engrave', run: '18' }) },
  'ask-phone': { who: 'newcomer', size: phone, path: async (b) => ask(await b.run(tomorrow), { material: 'birch-ply-laser', tag: 'S-0118', run: '18' }) },
  materials: { who: 'member', size: desk, path: () => '/materials?material=leather-pvc' },
  sheet: { who: 'steward', size: desk, path: () => '/sheets/S-0118' },
  training: { who: 'trainer', size: desk, path: () => '/training?person=m-5' },
  station: { who: 'member', size: desk, path: async (b, token) => { await air(530); const step = await b.run(running, token, await b.run(drawing, token, whole, 'lantern-front.svg')); if (step !== 'running') throw new Error(step); return '/station/heron' } },
  drawings: { who: 'member', size: desk, path: async (b, token) => `/drawings/${await b.run(drawing, token, lantern, 'lantern-panel.svg')}` },
  bookings: { who: 'member', size: desk, path: () => '/bookings' },
  machines: { who: 'steward', size: desk, path: () => '/machines' },
  incident: { who: 'steward', size: desk, path: async (b) => `/incidents/${await b.run('return (await fetch("/api/incidents").then((r) => r.json())).items.find((i) => i.what === "flame").id')}` },
  'near-miss': { size: phone, path: () => '/near-miss/heron' },
  records: { who: 'steward', size: desk, path: () => '/records' },
  soonest: { who: 'member', size: desk, path: () => '/bookings/soonest?operations=cut&material=birch-ply-laser&thickness=3+mm&tag=S-0097&run=25' },
  settings: { who: 'member', size: desk, path: () => '/materials/settings?operation=cut&material=birch-ply-laser&machine=heron&thickness=2.9' },
  emergency: { size: desk, path: () => '/emergency/wren' },
  upkeep: { who: 'steward', size: desk, path: () => '/upkeep' },
  use: { who: 'steward', size: desk, path: () => '/bookings/use' },
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
    if (only.length && !only.some((o) => o.split('=')[0] === name)) continue
    const page = await browser(base, view.size)
    try {
      await page.go('/')
      const token = view.who && (await page.run(signIn, view.who))
      await page.go(await view.path(page, token))
      await page.run(settle)
      mkdirSync(folder, { recursive: true })
      writeFileSync(join(folder, `${name}.png`), await page.picture())
      console.log(resolve(folder, `${name}.png`))
    } catch (error) {
      failed++
      console.error(`${name}: ${error.message}`)
    } finally {
      await page.quit()
    }
  }
} finally {
  close()
}
process.exit(failed ? 1 : 0)
