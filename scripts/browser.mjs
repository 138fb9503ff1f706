// A headless Chromium by the WebDriver protocol of Debian's ChromeDriver, so that it needs no package of its own.
import { spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

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

/** A window of that size; narrower than 500 it is a phone. */
export async function browser(base, [width, height]) {
  const args = ['--headless=new', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
    '--disable-component-update', '--disable-sync', '--hide-scrollbars', `--window-size=${Math.max(500, width)},${height}`,
    `--user-data-dir=${mkdtempSync(join(tmpdir(), 'vg-'))}`]
  const options = { args, binary: '/usr/bin/chromium', ...(width < 500 && { mobileEmulation: { deviceMetrics: { width, height, pixelRatio: 2 } } }) }
  const { sessionId } = await call('POST', '/session', { capabilities: { alwaysMatch: { browserName: 'chrome', timeouts: { script: 180000 }, 'goog:chromeOptions': options } } })
  const at = `/session/${sessionId}`
  if (width >= 500) {
    const inner = await call('POST', `${at}/execute/sync`, { script: 'return [outerWidth-innerWidth, outerHeight-innerHeight]', args: [] })
    await call('POST', `${at}/window/rect`, { width: width + inner[0], height: height + inner[1] })
  }
  return {
    go: (path) => call('POST', `${at}/url`, { url: base + path }),
    run: (script, ...values) => call('POST', `${at}/execute/async`, { script: `const done = arguments[arguments.length - 1]; (async (...a) => { ${script} })(...arguments).then((v) => done(v ?? null), (e) => done(String(e)))`, args: values }),
    picture: async () => Buffer.from(await call('GET', `${at}/screenshot`), 'base64'),
    quit: () => call('DELETE', at),
  }
}

/** Signs in by the name in the first argument; answers the token that changes carry. */
export const signIn = `const post = (path, body, headers) => fetch(path, { method: 'POST', headers: { 'Content-Type': 'application/json', ...headers }, body: JSON.stringify(body) }).then((r) => r.json());
  const made = await post('/api/sign-in', { name: a[0], password: 'ropewalk' }); return made.antiforgeryToken`

export const close = () => driver.kill()
