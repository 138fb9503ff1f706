import { useEffect, useRef, useState, type ReactNode } from 'react'
import type { Schemas } from '../kit/api'
import { Standing } from '../kit/Standing'
import gateCss from './gate.module.css'

type PostAnswer = Schemas['PostResponse']

export const postWords: Record<PostAnswer['post'], string> = {
  person: 'Person',
  training: 'Training',
  sheet: 'Sheet',
  drawing: 'Drawing',
  machine: 'Machine',
  time: 'Time',
  room: 'Room',
}

const FLOOR = 204
const COLLAR = 35
/** A bay with a sign is this much wider than a clear one. */
const SIGN_WEIGHT = 2.15
const NARROWEST = 104

interface PostLineProps {
  /** Null while the posts have not answered. */
  posts: PostAnswer[] | null
  /** The one action on a sign; null where a person here can do nothing. */
  action: (reason: Schemas['ReasonResponse']) => ReactNode
}

/** The seven posts: from the side with ropes on a desk, from above as a list on a phone. The words carry it; the ropes are drawn. */
export function PostLine({ posts, action }: PostLineProps) {
  const box = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(1113)
  useEffect(() => {
    if (!box.current) return
    const watch = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width))
    watch.observe(box.current)
    return () => watch.disconnect()
  }, [])
  return (
    <div ref={box} className={gateCss.postline}>
      {posts === null ? (
        <Unasked width={width} />
      ) : width < 860 ? (
        <FromAbove posts={posts} action={action} />
      ) : (
        <FromTheSide posts={posts} action={action} width={width} />
      )}
    </div>
  )
}

const worst = (post: PostAnswer) => post.reasons[0]

/** Bays share the width by weight; one that would be too narrow for its words takes its least, and the others share the rest. */
function widths(posts: PostAnswer[], width: number) {
  const share = width - 40
  const weights = posts.map((post) => (post.standing === 'shut' ? SIGN_WEIGHT : 1))
  const sum = weights.reduce((a, b) => a + b, 0)
  const narrow = weights.map((weight) => (share * weight) / sum < NARROWEST)
  const left = share - NARROWEST * narrow.filter(Boolean).length
  const wide = weights.reduce((a, weight, i) => (narrow[i] ? a : a + weight), 0)
  return weights.map((weight, i) => (narrow[i] ? NARROWEST : (left * weight) / wide))
}

function FromTheSide({
  posts,
  action,
  width,
}: {
  posts: PostAnswer[]
  action: PostLineProps['action']
  width: number
}) {
  const bays = widths(posts, width)
  const starts = bays.map((_, i) => bays.slice(0, i).reduce((a, b) => a + b, 0))
  const end = starts[6]! + bays[6]!
  const many = posts.filter((post) => post.standing === 'shut').length > 3
  return (
    <ol className={gateCss.gateline} aria-label="The seven posts">
      {posts.map((post, i) => (
        <li
          key={post.post}
          className={gateCss.bay}
          style={{ width: bays[i] }}
          data-post={post.post}
          data-standing={post.standing}
        >
          <Rope standing={post.standing} width={bays[i]!} />
          {post.standing === 'shut' && worst(post) && (
            <div className={gateCss.sign}>
              <p>
                {worst(post)!.text}
                {post.reasons.length > 1 && <span className="quiet"> And {post.reasons.length - 1} more.</span>}
              </p>
              {action(worst(post)!)}
            </div>
          )}
          <div className={gateCss.under}>
            <h3>{postWords[post.post]}</h3>
            <Standing standing={post.standing} />
            {!(many && post.standing === 'shut') && (
              <p className="small quiet">
                {post.standing === 'clear' || post.standing === 'shut' ? post.fact : worst(post)?.text}
              </p>
            )}
          </div>
        </li>
      ))}
      <svg className={gateCss.poles} width={end + 40} height="212" aria-hidden="true">
        <path d={`M0 204.75H${end + 40}`} stroke="#2C1029" strokeWidth="1.5" />
        {[...starts, end].map((x) => (
          <Pole key={x} x={x + 20} />
        ))}
      </svg>
    </ol>
  )
}

function Pole({ x, dashed }: { x: number; dashed?: boolean }) {
  if (dashed)
    return (
      <g transform={`translate(${x} 0)`} fill="none" stroke="#5B4450" strokeWidth="1.3" strokeDasharray="3 3">
        <path d="M-17 204h34v-4q-3-6-13-7h-8q-10 1-13 7z" />
        <path d="M-3.5 24V193M3.5 24V193" />
        <circle cx="0" cy="14.5" r="8.5" />
      </g>
    )
  return (
    <g transform={`translate(${x} 0)`}>
      <g stroke="#6F4B0C" strokeWidth="1.3" strokeLinejoin="round">
        <path d="M-17 204h34v-4q-3-6-13-7h-8q-10 1-13 7z" fill="#B6842A" />
        <rect x="-3.5" y="24" width="7" height="169" fill="#B6842A" />
        <rect x="-6.5" y="31" width="13" height="9" rx="1.5" fill="#DDB765" />
        <rect x="-5" y="22" width="10" height="4" rx="1" fill="#DDB765" />
        <circle cx="0" cy="14.5" r="8.5" fill="#B6842A" />
      </g>
      <path d="M-1.2 43V191" stroke="#DDB765" strokeWidth="1.6" />
      <path d="M-4.6 13a5 5 0 0 1 4.2-4" stroke="#F6E3B0" strokeWidth="2" fill="none" strokeLinecap="round" />
    </g>
  )
}

function Cord({ d, taut }: { d: string; taut?: boolean }) {
  const w = taut ? 11 : 9
  const cap = taut ? 'butt' : 'round'
  return (
    <g fill="none" strokeLinecap={cap} strokeLinejoin="round" className="cord">
      <path d={d} stroke={taut ? '#5A0F09' : '#3C1235'} strokeWidth={w + 2} />
      <path d={d} stroke={taut ? '#A81E12' : '#7B2E66'} strokeWidth={w} />
      <path d={d} stroke={taut ? '#E08A7F' : '#C07FA9'} strokeWidth={w * 0.17} transform={`translate(0,${-w * 0.2})`} />
    </g>
  )
}

function Ferrule({ x, y, turn }: { x: number; y: number; turn: number }) {
  return (
    <g transform={`translate(${x},${y}) rotate(${turn})`}>
      <rect x="-7" y="-6" width="11" height="12" rx="1.5" fill="#DDB765" stroke="#6F4B0C" strokeWidth="1.2" />
      <path d="M-7 0h-4" stroke="#6F4B0C" strokeWidth="2.4" />
    </g>
  )
}

/** Floor, knee, hip, chest: how tight the rope is says how hard the post is. */
function Rope({ standing, width }: { standing: PostAnswer['standing']; width: number }) {
  const left = 30
  const right = width + 10
  const middle = (left + right) / 2
  return (
    <svg width={width + 34} height="212" aria-hidden="true">
      {standing === 'clear' && (
        <>
          <Ferrule x={32} y={36} turn={20} />
          <Cord
            d={`M27 ${COLLAR}C42 47 30 105 33 164C34 196 42 198 56 198C72 198 74 192 ${Math.max(84, Math.min(width - 30, 130))} 198`}
          />
          <Ferrule x={Math.max(89, Math.min(width - 25, 135))} y={198} turn={180} />
        </>
      )}
      {standing === 'caution' && (
        <>
          <Cord d={`M${left} ${COLLAR}Q${middle} ${COLLAR + 150} ${right} ${COLLAR}`} />
          <Ferrule x={33} y={39} turn={50} />
          <Ferrule x={right - 3} y={39} turn={130} />
          <g transform={`translate(${middle - 77.5} 0)`}>
            <path d="M77.5 108V122" stroke="#6F4B0C" strokeWidth="1.5" />
            <path d="M61.5 129l8-8h16l8 8v26h-32z" fill="#FBF6EA" stroke="#6F4B0C" strokeWidth="1.5" />
            <circle cx="77.5" cy="126" r="2.2" fill="#6F4B0C" />
            <text x="77.5" y="147" textAnchor="middle" fontSize="14" fontWeight="700" className="disp" fill="#2C1029">
              if
            </text>
          </g>
        </>
      )}
      {standing === 'ask' && (
        <>
          <Cord d={`M${left} ${COLLAR}Q${middle} ${COLLAR + 66} ${right} ${COLLAR}`} />
          <Ferrule x={33} y={38} turn={30} />
          <Ferrule x={right - 3} y={38} turn={150} />
          <g transform={`translate(${middle} 70)`} stroke="#6F4B0C" strokeWidth="1.3">
            <path d="M-13 24q4-3 4-13 0-11 9-11t9 11q0 10 4 13z" fill="#B6842A" />
            <circle cx="0" cy="27" r="3.6" fill="#DDB765" />
          </g>
        </>
      )}
      {standing === 'shut' && (
        <>
          <Cord d={`M${left} ${COLLAR}H${right}`} taut />
          <Ferrule x={34} y={COLLAR} turn={0} />
          <Ferrule x={right - 4} y={COLLAR} turn={180} />
          <path d={`M62 41V61M${width - 22} 41V61`} stroke="#6F4B0C" strokeWidth="1.5" />
        </>
      )}
    </svg>
  )
}

function Unasked({ width }: { width: number }) {
  const step = (width - 40) / 7
  return (
    <svg className="unasked" width={width} height="212" aria-hidden="true">
      <path d={`M0 ${FLOOR + 0.75}H${width}`} stroke="#2C1029" strokeWidth="1.5" />
      {[0, 1, 2, 3, 4, 5, 6, 7].map((i) => (
        <Pole key={i} x={20 + i * step} dashed />
      ))}
    </svg>
  )
}

/** A post from above. */
function Disc({ x }: { x: number }) {
  return (
    <>
      <circle cx={x} cy="17" r="14" fill="#B6842A" stroke="#6F4B0C" strokeWidth="2" />
      <circle cx={x} cy="17" r="5.5" fill="#DDB765" stroke="#6F4B0C" strokeWidth="1.4" />
    </>
  )
}

function FromAbove({ posts, action }: { posts: PostAnswer[]; action: PostLineProps['action'] }) {
  return (
    <ol className={gateCss.above} aria-label="The seven posts">
      {posts.map((post) => (
        <li key={post.post} data-post={post.post} data-standing={post.standing}>
          <svg className={gateCss.disc} width="100%" height="34" aria-hidden="true">
            {post.standing === 'shut' && (
              <rect x="17" y="11" width="100%" height="12" fill="#A81E12" stroke="#5A0F09" />
            )}
            {(post.standing === 'caution' || post.standing === 'ask') && (
              <svg viewBox="0 0 300 34" width="100%" height="34" preserveAspectRatio="none">
                <path
                  d={post.standing === 'caution' ? 'M10 14Q150 46 290 14' : 'M10 14Q150 26 290 14'}
                  fill="none"
                  stroke="#7B2E66"
                  strokeWidth="7"
                  vectorEffect="non-scaling-stroke"
                />
              </svg>
            )}
            {post.standing === 'clear' ? (
              <ellipse cx="34" cy="17" rx="18" ry="9" fill="none" stroke="#7B2E66" strokeWidth="6" />
            ) : (
              <svg x="100%" overflow="visible">
                <Disc x={-17} />
              </svg>
            )}
            <Disc x={17} />
          </svg>
          <div className={gateCss.abovetext}>
            <h3>{postWords[post.post]}</h3> <Standing standing={post.standing} />
            <p>{post.standing === 'clear' ? post.fact : worst(post)?.text}</p>
            {post.standing === 'shut' && worst(post) && action(worst(post)!)}
          </div>
        </li>
      ))}
    </ol>
  )
}
