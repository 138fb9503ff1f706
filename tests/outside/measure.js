// Runs in Chromium: arguments are SVG texts and a callback. Answers lengths by stroke colour and the extent, in mm, measured by
// Chromium alone: style, visibility, matrices, resolved lengths, and the length along each path. Shares no code with the product.
const done = arguments[arguments.length - 1]
const texts = [...arguments].slice(0, -1)
const MM = 25.4 / 96
const hidden = new Set(['defs', 'symbol', 'clipPath', 'mask', 'pattern', 'marker'])

function pathOf(el) {
  const v = (name) => el[name].baseVal.value
  const ellipse = (cx, cy, rx, ry) => (rx > 0 && ry > 0 ? `M${cx - rx} ${cy}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0z` : '')
  const points = () => [...el.points].map((p) => `${p.x} ${p.y}`).join('L')
  switch (el.localName) {
    case 'path': return el.getAttribute('d') ?? ''
    case 'line': return `M${v('x1')} ${v('y1')}L${v('x2')} ${v('y2')}`
    case 'polyline': return el.points.length > 1 ? `M${points()}` : ''
    case 'polygon': return el.points.length > 1 ? `M${points()}z` : ''
    case 'circle': return ellipse(v('cx'), v('cy'), v('r'), v('r'))
    case 'ellipse': {
      const auto = (name, other) => (el.hasAttribute(name) ? v(name) : v(other))
      return ellipse(v('cx'), v('cy'), auto('rx', 'ry'), auto('ry', 'rx'))
    }
    case 'rect': {
      const [x, y, w, h] = ['x', 'y', 'width', 'height'].map(v)
      if (!(w > 0 && h > 0)) return ''
      const rx = Math.min(el.hasAttribute('rx') ? v('rx') : v('ry'), w / 2)
      const ry = Math.min(el.hasAttribute('ry') ? v('ry') : v('rx'), h / 2)
      if (!(rx > 0 && ry > 0)) return `M${x} ${y}h${w}v${h}h${-w}z`
      const arc = (dx, dy) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`
      return `M${x + rx} ${y}h${w - 2 * rx}${arc(rx, ry)}v${h - 2 * ry}${arc(-rx, ry)}h${2 * rx - w}${arc(-rx, -ry)}v${2 * ry - h}${arc(rx, -ry)}z`
    }
  }
  return ''
}

const ENLARGED = 4096

/** The subpaths of path data as Chromium reads it, enlarged: its lengths are 10 % short on a circle of radius 1, and exact above 1,000 units. */
function enlarged(d) {
  const path = document.createElementNS('http://www.w3.org/2000/svg', 'path')
  path.setAttribute('d', d)
  document.getElementById('scratch').replaceChildren(path)
  const absolute = /^path\("(.*)"\)$/.exec(getComputedStyle(path).d)?.[1] ?? ''
  return absolute.split(/(?=M)/).filter((sub) => sub.trim()).map((sub) => {
    const big = path.cloneNode()
    document.getElementById('scratch').append(big)
    big.setAttribute('d', sub.replace(/([A-Z])([^A-Z]*)/g, (_, command, rest) => {
      const numbers = rest.trim().split(/[\s,]+/).filter(Boolean).map(Number)
      // Of an arc's seven numbers the turn and the two flags are no lengths.
      return command + numbers.map((n, i) => (command === 'A' && [2, 3, 4].includes(i % 7) ? n : n * ENLARGED)).join(' ')
    }))
    return big
  })
}

/** A copy is a group moved by x and y that holds a clone of what it points at (SVG 2, section 5.6). */
function expandUses(root) {
  for (let use; (use = [...root.querySelectorAll('use')].find((u) => !u.closest('defs, symbol'))); ) {
    const target = root.querySelector('#' + CSS.escape((use.getAttribute('href') ?? use.getAttributeNS('http://www.w3.org/1999/xlink', 'href')).slice(1)))
    if (!target) {
      use.remove()
      continue
    }
    const group = document.createElementNS('http://www.w3.org/2000/svg', 'g')
    for (const a of use.attributes) if (!['x', 'y', 'width', 'height', 'href', 'xlink:href', 'id'].includes(a.name)) group.setAttribute(a.name, a.value)
    const move = document.createElementNS('http://www.w3.org/2000/svg', 'g')
    move.setAttribute('transform', `translate(${use.x.baseVal.value} ${use.y.baseVal.value})`)
    let copy = target.cloneNode(true)
    copy.removeAttribute('id')
    if (target.localName === 'symbol') {
      const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
      for (const a of copy.attributes) svg.setAttribute(a.name, a.value)
      svg.append(...copy.childNodes)
      copy = svg
      for (const side of ['width', 'height']) if (use.hasAttribute(side)) copy.setAttribute(side, use.getAttribute(side))
      copy.setAttribute('overflow', 'visible')
    }
    move.append(copy)
    group.append(move)
    use.replaceWith(group)
  }
}

const hex = (rgb) => {
  // A gradient or pattern is grey in the product, which says that it is not read.
  if (rgb.startsWith('url(')) return document.querySelector(rgb.slice(5, rgb.lastIndexOf('"'))) ? '#808080' : null
  const parts = rgb.match(/[\d.]+/g)?.map(Number)
  if (!parts || rgb === 'none' || (parts.length === 4 && parts[3] === 0)) return null
  return '#' + parts.slice(0, 3).map((n) => Math.round(n).toString(16).padStart(2, '0')).join('')
}

function measure(text) {
  document.body.innerHTML = '<svg id="scratch" width="0" height="0" style="position:absolute"></svg>'
  document.body.style.margin = 0
  // Old files leave out the namespace, without which a browser draws nothing.
  if (!/xmlns(:\w+)?\s*=\s*.http:\/\/www.w3.org\/2000\/svg/.test(text)) text = text.replace('<svg', '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"')
  const root = document.adoptNode(new DOMParser().parseFromString(text, 'image/svg+xml').documentElement)
  // What is no XML, or XML of no namespace, is nothing that Chromium draws.
  if (!(root instanceof SVGSVGElement) || root.querySelector('parsererror')) return { strokes: {}, box: [], unreadable: true }
  const box = root.viewBox.baseVal
  const size = (name, other) => root.getAttribute(name)?.trim().endsWith('%') || !root.hasAttribute(name) ? null : root.getAttribute(name)
  if (!size('width')) root.setAttribute('width', box.width)
  if (!size('height')) root.setAttribute('height', box.height)
  document.body.append(root)
  expandUses(root)
  const origin = root.getBoundingClientRect()
  const strokes = {}
  const extent = [Infinity, Infinity, -Infinity, -Infinity]
  for (const el of root.querySelectorAll('path, line, polyline, polygon, circle, ellipse, rect')) {
    let gone = false
    for (let up = el; up && up !== document.body; up = up.parentElement) gone ||= hidden.has(up.localName) || getComputedStyle(up).display === 'none'
    const style = getComputedStyle(el)
    if (gone || style.visibility !== 'visible') continue
    const stroke = parseFloat(style.strokeWidth) === 0 ? null : hex(style.stroke)
    const fill = el.localName === 'line' ? null : hex(style.fill)
    if (!stroke && !fill) continue
    const d = pathOf(el)
    if (!d.trim()) continue
    const m = el.getScreenCTM()
    const map = (p) => [(m.a * p.x + m.c * p.y + m.e - origin.x) * MM, (m.b * p.x + m.d * p.y + m.f - origin.y) * MM]
    // A turned, moved or evenly scaled piece keeps its shape: its own length counts. Else it is measured along its mapped points.
    const even = Math.abs(m.a * m.c + m.b * m.d) < 1e-4 * (m.a * m.a + m.b * m.b) && Math.abs(Math.hypot(m.a, m.b) - Math.hypot(m.c, m.d)) < 1e-4 * Math.hypot(m.a, m.b)
    let length = 0
    for (const part of enlarged(d)) {
      const total = part.getTotalLength()
      // A lone "moveto" draws nothing.
      if (total === 0 && !/[LHVCSQTA]/.test(part.getAttribute('d'))) continue
      if (even) length += (total / ENLARGED) * Math.hypot(m.a, m.b) * MM
      const widen = ([x, y]) => {
        extent[0] = Math.min(extent[0], x)
        extent[1] = Math.min(extent[1], y)
        extent[2] = Math.max(extent[2], x)
        extent[3] = Math.max(extent[3], y)
      }
      if (even && m.b === 0) {
        const box = part.getBBox()
        for (const [x, y] of [[box.x, box.y], [box.x + box.width, box.y + box.height]]) widen(map({ x: x / ENLARGED, y: y / ENLARGED }))
        continue
      }
      // Chords cut corners off: a long outline wants more of them.
      const steps = even ? 1200 : Math.max(1200, 40 * part.getAttribute('d').split(/(?=[A-Z])/).length)
      let last = null
      for (let i = 0; i <= steps && total > 0; i++) {
        const p = part.getPointAtLength((total * i) / steps)
        const at = map({ x: p.x / ENLARGED, y: p.y / ENLARGED })
        if (last && !even) length += Math.hypot(at[0] - last[0], at[1] - last[1])
        last = at
        widen(at)
      }
    }
    if (stroke) strokes[stroke] = (strokes[stroke] ?? 0) + length
  }
  return { strokes, box: extent }
}

try {
  done(JSON.stringify(texts.map(measure)))
} catch (error) {
  done(JSON.stringify([{ error: String(error.stack ?? error) }]))
}
