import type { Schemas } from '../kit/api'
import { entryName } from '../kit/names'
import { Link } from 'react-router'
import { Ticket } from '../kit/parts'
import { Standing } from '../kit/Standing'
import { lengthIn, useUnit } from '../kit/units'
import { RatioLine } from './RatioLine'
import type { SettingWish } from './settingQueries'
import { Big } from './Big'
import css from './settings.module.css'

/** The setting to begin with, and why; or a guess with its working. */
export function Suggested({ list, wish }: { list: Schemas['SettingList']; wish: SettingWish }) {
  const unit = useUnit()
  const chosen = list.items.find((i) => i.id === list.suggestion?.id)
  if (list.notPermitted)
    return (
      <Ticket label="Not permitted">
        <h2 className={css.refused}>
          <Standing standing="shut" />
        </h2>
        <p>{list.notPermitted}</p>
      </Ticket>
    )
  if (!chosen || !list.suggestion) return <Guess list={list} />
  return (
    <>
      <Ticket label="Set this">
        <div className={css.tickethead}>
          <h2>Set this</h2>
          <b>{entryName(chosen.number)}</b>
        </div>
        <Big power={chosen.powerPercent} watts={chosen.watts} speed={chosen.speedMmPerS} passes={chosen.passes} />
        <p>
          {[
            `${chosen.jPerMm} J/mm`,
            chosen.frequencyHz && `frequency ${chosen.frequencyHz} Hz`,
            chosen.pitchMm && `line pitch ${lengthIn(unit, chosen.pitchMm)} ${unit}`,
            chosen.focusOffsetMm
              ? `focus ${lengthIn(unit, Math.abs(chosen.focusOffsetMm))} ${unit} ${chosen.focusOffsetMm > 0 ? 'below' : 'above'} the face`
              : 'focus on the face',
            chosen.fanLevel != null && `fan level ${chosen.fanLevel}`,
            chosen.airAssist ? 'air assist on' : 'air assist off',
            chosen.fixture,
            chosen.mask === 'none' ? 'no mask' : `${chosen.mask} tape of ${chosen.maskOf}`,
            chosen.offsets.length > 0 && `offsets ${chosen.offsets.join(', ')} %`,
          ]
            .filter(Boolean)
            .join(', ')}
          .
        </p>
        {chosen.note && <p>{chosen.note}</p>}
        <h3>Why this one</h3>
        <ul className={css.why}>
          {list.suggestion.reasons.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
        </ul>
        <Link to={askWith(wish, chosen.id)}>Ask the gate with this setting</Link>
      </Ticket>
      {chosen.ratio && <RatioLine ratio={Number(chosen.ratio)} words={chosen.says ?? ''} />}
    </>
  )
}

function Guess({ list }: { list: Schemas['SettingList'] }) {
  const guess = list.guess
  if (!guess) return null
  return (
    <Ticket label="A first guess">
      <div className={css.tickethead}>
        <h2>A first guess</h2>
        <b>nothing fits yet</b>
      </div>
      <Big power={guess.powerPercent} watts={guess.watts} speed={guess.speedMmPerS} passes={guess.passes} />
      <p>{guess.working}</p>
      <p>
        <b>Nobody has tried it.</b> A test piece comes first; then add what worked.
      </p>
    </Ticket>
  )
}

/** The question with this setting in it. */
export const askWith = (wish: SettingWish, id: string, tag?: string | null) =>
  `/ask?${new URLSearchParams({
    operations: wish.operation,
    material: wish.materialId,
    thickness: wish.thickness,
    machine: wish.machineId,
    settings: id,
    ...(tag && { tag }),
  })}`
