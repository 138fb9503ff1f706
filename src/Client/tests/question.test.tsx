import { act, renderHook } from '@testing-library/react'
import type { ReactNode } from 'react'
import { MemoryRouter } from 'react-router'
import { describe, expect, it } from 'vitest'
import { askAddress, askBody, emptyItem, itemsOf, missing, useAskState } from '../src/gate/askState'
import type { Schemas } from '../src/kit/api'

const at = (address: string) => {
  const wrapper = ({ children }: { children: ReactNode }) => (
    <MemoryRouter initialEntries={[address]}>{children}</MemoryRouter>
  )
  return renderHook(() => useAskState(), { wrapper })
}

const asked: Schemas['GateQuestion'] = {
  memberId: 'm-4',
  machineId: 'heron',
  items: [
    {
      materialId: 'birch-ply-laser',
      thicknessMm: 3,
      operations: ['cut', 'score'],
      sheetTag: 'S-0097',
      drawingId: null,
      runMinutes: 18,
    },
    { materialId: 'cork', thicknessMm: 4.5, operations: ['cut'], sheetTag: null, drawingId: null, runMinutes: null },
  ],
  fixture: 'rotary',
  supervisorId: 'm-2',
  start: '2026-11-25T18:00:00Z',
  minutes: 75,
  phase: 'booking',
}

describe('the question', () => {
  it('lives in the address: a stored one is asked again as it was', () => {
    const { result } = at(askAddress(asked, 'r-1'))
    const [state] = result.current
    expect(state.asked).toBe('r-1')
    expect(itemsOf(state)).toHaveLength(2)
    const body = askBody(state, 'somebody else', 'in')
    expect(body).toMatchObject({
      memberId: 'm-4',
      machineId: 'heron',
      fixture: 'rotary',
      supervisorId: 'm-2',
      minutes: 75,
      unit: 'in',
    })
    // Thicknesses carry their unit, so that inches on screen do not turn 3 mm into 3 in.
    expect(body.items).toEqual([
      {
        materialId: 'birch-ply-laser',
        thickness: '3 mm',
        operations: ['cut', 'score'],
        sheetTag: 'S-0097',
        drawingId: null,
        runMinutes: 18,
      },
      {
        materialId: 'cork',
        thickness: '4.5 mm',
        operations: ['cut'],
        sheetTag: null,
        drawingId: null,
        runMinutes: null,
      },
    ])
  })

  it('says what is still to fill in, of every item', () => {
    const { result } = at('/ask?operations=cut&thickness=3&material=cork&machine=heron&start=2026-11-25T18:00:00Z')
    expect(missing(result.current[0])).toEqual([])
    act(() => result.current[1]({ more: [emptyItem] }))
    expect(missing(result.current[0])).toEqual(['what to do', 'the thickness', 'the material'])
    expect(missing(at('/ask').result.current[0])).toHaveLength(5)
  })

  it('is no longer the one that was put to the stewards once it is changed', () => {
    const { result } = at(askAddress(asked, 'r-1'))
    act(() => result.current[1]({ thickness: '4 mm' }))
    expect(result.current[0]).toMatchObject({ asked: null, thickness: '4 mm', machine: 'heron' })
  })

  it('forgets a blank that is emptied, and keeps the others', () => {
    const { result } = at('/ask?operations=cut,score&tag=S-0097&run=18')
    act(() => result.current[1]({ tag: null, operations: [] }))
    expect(result.current[0]).toMatchObject({ tag: null, operations: [], run: '18' })
    expect(askBody(result.current[0], 'm-4', 'mm').memberId).toBe('m-4')
  })

  it('names its settings, and forgets them for another machine, material or work', () => {
    const params = 'operations=cut&thickness=3&material=cork&settings=s-1,s-2'
    const { result } = at(`/ask?${params}&machine=heron&and=${encodeURIComponent(params)}`)
    expect(askBody(result.current[0], 'm-4', 'mm').items?.map((i) => i.settingIds)).toEqual([
      ['s-1', 's-2'],
      ['s-1', 's-2'],
    ])
    act(() => result.current[1]({ machine: 'wren' }))
    expect(askBody(result.current[0], 'm-4', 'mm').items?.map((i) => i.settingIds)).toEqual([undefined, undefined])
    const other = at(`/ask?${params}`).result
    act(() => other.current[1]({ operations: ['score'] }))
    expect(other.current[0].settings).toBeNull()
  })

  it('keeps what turns on the rotary in its address, and sends it with the rotary alone', () => {
    const { result } = at('/ask?operations=engrave&fixture=rotary')
    act(() => result.current[1]({ round: { diameter: '73 mm', diameter2: '66 mm', handleOrBall: true } }))
    expect(result.current[0].round).toEqual({ diameter: '73 mm', diameter2: '66 mm', handleOrBall: true })
    expect(askBody(result.current[0], 'm-4', 'mm').round).toMatchObject({ diameter: '73 mm', diameter2: '66 mm' })
    act(() => result.current[1]({ fixture: null }))
    expect(askBody(result.current[0], 'm-4', 'mm').round).toBeUndefined()
    act(() => result.current[1]({ round: null }))
    expect(result.current[0].round).toBeNull()
  })

  it('of nothing leads to an empty one', () => expect(askAddress(undefined)).toBe('/ask'))
})
