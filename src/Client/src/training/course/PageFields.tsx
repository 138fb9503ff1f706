import { TextField } from '../../kit/parts'

export interface PageText {
  body: string
  check: string
  /** One a line. */
  options: string
}

/** What a page is made of: its words, and a question on them. */
export function PageFields({
  draft,
  put,
  errors,
}: {
  draft: PageText
  put: (changed: Partial<PageText>) => void
  errors: Record<string, string[]>
}) {
  return (
    <>
      <TextField
        id="page-body"
        label="The page, in Markdown"
        rows={16}
        error={errors.body}
        value={draft.body}
        put={(value) => put({ body: value })}
      />
      <TextField
        id="page-check"
        label="A question on what it says"
        error={errors.check}
        value={draft.check}
        put={(value) => put({ check: value })}
      />
      <TextField
        id="page-options"
        label="Its answers, one a line, the right one first"
        rows={4}
        error={errors.options}
        value={draft.options}
        put={(value) => put({ options: value })}
      />
    </>
  )
}
