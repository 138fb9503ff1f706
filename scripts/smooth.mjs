// How smoothly a drawing of 100,000 segments moves of a running demo: node scripts/smooth.mjs [http://127.0.0.1:5080]
// Five rounds: dragged for 1.5 s, left at rest, zoomed for 1.5 s, left at rest. Milliseconds from frame to frame.
import { browser, close, signIn } from './browser.mjs'

const base = process.argv[2] ?? 'http://127.0.0.1:5080'

/** Two thousand gears of 25 teeth. */
function gears() {
  let d = ''
  for (let i = 0; i < 2000; i++) {
    const [x, y] = [10 + (i % 50) * 11.5, 10 + Math.floor(i / 50) * 9.6]
    for (let k = 0; k < 50; k++) {
      const [a, r] = [(2 * Math.PI * k) / 50, k % 2 ? 4.2 : 3.4]
      d += `${k ? 'L' : 'M'}${(x + r * Math.cos(a)).toFixed(3)} ${(y + r * Math.sin(a)).toFixed(3)}`
    }
    d += 'Z'
  }
  return `<svg xmlns="http://www.w3.org/2000/svg" width="600mm" height="400mm" viewBox="0 0 600 400"><path fill="none" stroke="#9c2f4f" d="${d}"/></svg>`
}

const put = `const form = new FormData(); form.append('file', new File([a[1]], 'gears.svg', { type: 'image/svg+xml' }));
  return (await fetch('/api/drawings', { method: 'POST', headers: { 'X-Velvet-Gate': a[0] }, body: form }).then((r) => r.json())).id`
const settle = `while (!document.querySelector('canvas.sheetlines')) await new Promise((r) => setTimeout(r, 50)); await new Promise((r) => setTimeout(r, 1500))`
const move = `const view = document.querySelector('.sheetview'), box = view.getBoundingClientRect(), x = box.left + box.width / 2, y = box.top + box.height / 2
  const frames = async (ms, step) => {
    const took = []; let last = performance.now(); const end = last + ms
    for (let i = 0; last < end; i++) { step(i); await new Promise(requestAnimationFrame); const now = performance.now(); took.push(now - last); last = now }
    return took
  }
  const point = (kind, px, py) => view.dispatchEvent(new PointerEvent(kind, { bubbles: true, clientX: px, clientY: py, pointerId: 7 }))
  view.setPointerCapture = () => {}; view.focus()
  point('pointerdown', x, y)
  const drag = await frames(1500, (i) => point('pointermove', x + 100 * Math.sin(i / 8), y + 60 * Math.cos(i / 8)))
  point('pointerup', x, y)
  const rest = await frames(600, () => {})
  const zoom = await frames(1500, (i) => view.dispatchEvent(new WheelEvent('wheel', { bubbles: true, cancelable: true, ctrlKey: true, deltaY: i % 40 < 20 ? -40 : 40, clientX: x, clientY: y })))
  return { drag, rest, zoom, after: await frames(600, () => {}) }`

const told = (took) => {
  const sorted = took.toSorted((a, b) => a - b)
  return `median ${sorted[sorted.length >> 1].toFixed(1)}, p95 ${sorted[Math.floor(sorted.length * 0.95)].toFixed(1)}, longest ${sorted.at(-1).toFixed(1)}`
}

try {
  const page = await browser(base, [1280, 800])
  await page.go('/')
  const token = await page.run(signIn, 'member')
  await page.go(`/drawings/${await page.run(put, token, gears())}`)
  await page.run(settle)
  for (let round = 1; round <= 5; round++) {
    for (const [what, took] of Object.entries(await page.run(move))) console.log(`round ${round}, ${what}: ${told(took)}`)
  }
  await page.quit()
} finally {
  close()
}
