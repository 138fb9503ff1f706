import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from 'react'
import { Standing, type StandingWord } from '../kit/Standing'
import sentenceCss from './sentence.module.css'

export interface Option {
  value: string
  label: string
  /** A few quiet words beside it. */
  note?: string
  standing?: StandingWord
  standingWord?: string
  /** More words that find it. */
  also?: string
}

interface BlankProps {
  /** What the blank asks for, for readers. */
  name: string
  /** What stands in it; null while it is empty. */
  text: string | null
  empty: string
  error?: string[]
  /** Set by a shut post: double signal underline. */
  bad?: boolean
  children: (close: () => void) => ReactNode
}

/** A blank in the sentence: opens by Enter or typing, Esc leaves. */
export function Blank({ name, text, empty, error, bad, children }: BlankProps) {
  const [open, setOpen] = useState(false)
  const button = useRef<HTMLButtonElement>(null)
  const box = useRef<HTMLSpanElement>(null)
  const close = () => setOpen(false)
  const wasOpen = useRef(false)
  useEffect(() => {
    // The panel took the focus with it: it goes back to the blank, unless the person has put it elsewhere.
    if (wasOpen.current && !open && document.activeElement === document.body) button.current?.focus()
    wasOpen.current = open
  }, [open])
  useEffect(() => {
    if (!open) return
    const outside = (event: PointerEvent) => {
      if (!box.current?.contains(event.target as Node)) setOpen(false)
    }
    document.addEventListener('pointerdown', outside)
    return () => document.removeEventListener('pointerdown', outside)
  }, [open])
  return (
    <span className={sentenceCss.blankbox} ref={box} onKeyDown={(event) => event.key === 'Escape' && close()}>
      <button
        ref={button}
        type="button"
        className={`${sentenceCss.blank} ${bad || error ? sentenceCss.bad : ''} ${text === null ? sentenceCss.unfilled : ''}`}
        aria-label={`${name}: ${text ?? `${empty}, not filled in`}${error ? `. ${error.join(' ')}` : ''}`}
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        data-blank={name}
      >
        {text ?? empty}
        <svg width="10" height="12" viewBox="0 0 10 12" aria-hidden="true">
          <path d="M5 0V5" stroke="#6F4B0C" strokeWidth="1.6" />
          <circle cx="5" cy="8" r="3.2" fill="#B6842A" stroke="#6F4B0C" strokeWidth="1.2" />
        </svg>
      </button>
      {open && (
        <div className={`${sentenceCss.blankpanel} dropdown-menu show`} role="dialog" aria-label={name}>
          {children(close)}
        </div>
      )}
    </span>
  )
}

/** A list that narrows while typing: arrows move, Enter fills. */
export function Pick({
  label,
  options,
  value,
  onPick,
}: {
  label: string
  options: Option[]
  value: string | null
  onPick: (value: string) => void
}) {
  const id = useId()
  const [filter, setFilter] = useState('')
  const wanted = filter.trim().toLowerCase().split(/\s+/)
  const shown = options
    .filter((o) => wanted.every((word) => `${o.label} ${o.note ?? ''} ${o.also ?? ''}`.toLowerCase().includes(word)))
    .slice(0, 60)
  const [moved, setMoved] = useState<number | null>(null)
  const at = Math.min(
    moved ??
      Math.max(
        0,
        shown.findIndex((o) => o.value === value),
      ),
    Math.max(0, shown.length - 1),
  )
  const list = useRef<HTMLDivElement>(null)
  useEffect(() => {
    list.current?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' })
  }, [at])
  const press = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault()
      setMoved((at + (event.key === 'ArrowDown' ? 1 : shown.length - 1)) % Math.max(1, shown.length))
    } else if (event.key === 'Enter' && !event.ctrlKey && shown[at]) {
      event.preventDefault()
      onPick(shown[at].value)
    }
  }
  return (
    <>
      <input
        className="form-control"
        role="combobox"
        aria-label={label}
        aria-expanded
        aria-controls={`${id}-list`}
        aria-activedescendant={shown[at] ? `${id}-${at}` : undefined}
        autoFocus
        value={filter}
        placeholder={label}
        onChange={(event) => {
          setFilter(event.target.value)
          setMoved(0)
        }}
        onKeyDown={press}
      />
      <div className={sentenceCss.picklist} role="listbox" id={`${id}-list`} aria-label={label} ref={list}>
        {shown.map((option, i) => (
          <div
            key={option.value}
            id={`${id}-${i}`}
            role="option"
            aria-selected={i === at}
            className={`dropdown-item ${i === at ? 'active' : ''}`}
            onClick={() => onPick(option.value)}
          >
            <b>{option.label}</b> <span className={sentenceCss.picknote}>{option.note}</span>
            {option.standing && <Standing standing={option.standing} word={option.standingWord} width={18} />}
          </div>
        ))}
        {shown.length === 0 && <p className="small quiet m-2">Nothing by that name.</p>}
      </div>
      <p className={`${sentenceCss.pickkeys} small quiet`}>
        <kbd>↑</kbd> <kbd>↓</kbd> move <kbd>Enter</kbd> fill <kbd>Esc</kbd> leave
      </p>
    </>
  )
}

/** A text to type, with a sentence of help. */
export function Write({
  label,
  value,
  help,
  onWrite,
  refuse,
}: {
  label: string
  value: string
  help: string
  onWrite: (value: string) => void
  /** A sentence when the text cannot be sent at all; it stays in the field. */
  refuse?: (value: string) => string | null
}) {
  const [text, setText] = useState(value)
  const [refusal, setRefusal] = useState<string | null>(null)
  const id = useId()
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        const against = refuse?.(text.trim()) ?? null
        setRefusal(against)
        if (!against) onWrite(text.trim())
      }}
    >
      <label className="form-label" htmlFor={id}>
        {label}
      </label>
      <input
        id={id}
        className={`form-control ${refusal ? 'is-invalid' : ''}`}
        aria-describedby={refusal ? `${id}-error` : undefined}
        autoFocus
        value={text}
        onChange={(event) => setText(event.target.value)}
        onFocus={(event) => event.target.select()}
      />
      {refusal && (
        <div className="invalid-feedback" id={`${id}-error`} role="alert">
          {refusal}
        </div>
      )}
      <p className="small quiet mt-1 mb-2">{help}</p>
      <button className="btn btn-primary btn-sm" type="submit">
        Fill in
      </button>
    </form>
  )
}
