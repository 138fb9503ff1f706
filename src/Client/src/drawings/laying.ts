/** How a drawing is to be laid on a sheet, as it is typed. */
export interface Laid {
  copies: string
  /** Empty: the way that fits better. */
  quarters: string
  mirror: boolean
  anchor: string
}

export const anchors = [
  ['lowerLeft', 'lower left corner'],
  ['lowerRight', 'lower right corner'],
  ['upperLeft', 'upper left corner'],
  ['upperRight', 'upper right corner'],
  ['middle', 'middle of the sheet'],
] as const

export const turns = [
  ['', 'the way that fits better'],
  ['0', 'not at all'],
  ['1', 'a quarter'],
  ['2', 'half'],
  ['3', 'three quarters'],
] as const
