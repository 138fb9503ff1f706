import type { Schemas } from './api'

type FormField = Schemas['FormField']
export type SheetRow = Record<string, string | boolean>
export type Day = { day: string; opens: string; closes: string }
export type SheetValue = string | boolean | string[] | SheetRow[] | Day[] | Record<string, string>
export type Sheet = Record<string, SheetValue>

/** A record of the server as what stands in the fields. Lengths keep their millimetres, to the last digit. */
export function toSheet(fields: FormField[], record: unknown): Sheet {
  const sheet: Sheet = {}
  for (const field of fields) {
    const found = field.key
      .split('.')
      .reduce<unknown>((at, part) => (at as Record<string, unknown> | undefined)?.[part], record)
    sheet[field.key] = toValue(field, found)
  }
  return sheet
}

/** A new sheet with the usual values of its fields; whoever fills it in looks at each. */
export const usualSheet = (fields: FormField[]): Sheet =>
  Object.fromEntries(
    fields.map((f) => [
      f.key,
      f.kind === 'rows' ? (f.parts?.some((p) => p.usual) ? [usualRow(f)] : []) : toValue(f, fromText(f)),
    ]),
  )

/** One more row, as rows of this kind usually are. */
export const usualRow = (field: FormField): SheetRow =>
  Object.fromEntries((field.parts ?? []).map((p) => [p.key, toValue(p, fromText(p)) as string | boolean]))

const fromText = (field: FormField) => (field.kind === 'flag' ? field.usual === 'true' : field.usual || undefined)

/** A plain value as text; what is none gives nothing. */
export const asWritten = (value: unknown) =>
  typeof value === 'string' ? value : typeof value === 'number' || typeof value === 'boolean' ? String(value) : ''

function toValue(field: FormField, found: unknown): SheetValue {
  if (field.kind === 'flag') return found === true
  if (field.kind === 'words') return Array.isArray(found) ? found.join(', ') : ''
  if (field.kind === 'rows') return Array.isArray(found) ? (found as unknown[]).map((row) => toRow(field, row)) : []
  if (field.kind === 'hours') return Array.isArray(found) ? (found as Day[]) : []
  if (field.kind === 'colours') return (found as { strokes?: Record<string, string> } | undefined)?.strokes ?? {}
  const text = asWritten(found)
  return field.kind === 'length' && text ? `${text} mm` : text
}

const toRow = (field: FormField, row: unknown): SheetRow =>
  Object.fromEntries((field.parts ?? []).map((p) => [p.key, toValue(p, (row as SheetRow)[p.key]) as string | boolean]))
