import { describe, expect, it } from 'vitest'
import type { Schemas } from '../src/kit/api'
import { asWritten, toSheet, usualRow, usualSheet } from '../src/kit/sheetValues'

type Field = Schemas['FormField']
const field = (key: string, kind: Field['kind'], more: Partial<Field> = {}) => ({ key, kind, ...more }) as Field

describe('a record in its form', () => {
  it('keeps millimetres to the last digit, also where inches are shown', () => {
    const sheet = toSheet([field('bed.widthMm', 'length')], { bed: { widthMm: 914.4001 } })
    expect(sheet).toEqual({ 'bed.widthMm': '914.4001 mm' })
  })

  it('shows what is not there as empty, never as zero or as a word', () => {
    const fields = [
      field('a', 'number'),
      field('b.c', 'text'),
      field('d', 'length'),
      field('e', 'flag'),
      field('f', 'words'),
    ]
    expect(toSheet(fields, {})).toEqual({ a: '', 'b.c': '', d: '', e: false, f: '' })
    expect(asWritten(null)).toBe('')
    expect(asWritten(0)).toBe('0')
  })

  it('reads rows part by part', () => {
    const stops = field('stops', 'rows', { parts: [field('name', 'text'), field('cuts', 'flag')] })
    expect(toSheet([stops], { stops: [{ name: 'E-stop', cuts: true }, { name: 'Key' }] })).toEqual({
      stops: [
        { name: 'E-stop', cuts: true },
        { name: 'Key', cuts: false },
      ],
    })
  })

  it('starts a new one with the usual values', () => {
    const rows = field('rows', 'rows', {
      parts: [field('mm', 'length', { usual: '12' }), field('on', 'flag', { usual: 'true' })],
    })
    expect(usualSheet([field('n', 'number', { usual: '5' }), field('t', 'text'), rows])).toEqual({
      n: '5',
      t: '',
      rows: [{ mm: '12 mm', on: true }],
    })
    expect(usualRow(field('none', 'rows'))).toEqual({})
  })
})
