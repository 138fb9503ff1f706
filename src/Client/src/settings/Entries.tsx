import type { Schemas } from '../kit/api'
import { usePress } from '../kit/Act'
import { answer, client } from '../kit/api'
import { entryName } from '../kit/names'
import { Empty, Failure, RunOn } from '../kit/parts'
import { Standing } from '../kit/Standing'
import { useSession } from '../kit/session'
import { lengthIn, useUnit } from '../kit/units'
import css from './settings.module.css'

/** Everything the house knows of that machine and material, what could be suggested first. */
export function Entries({ list }: { list: Schemas['SettingList'] }) {
  const unit = useUnit()
  const { time } = useSession()
  return (
    <section>
      <RunOn title="All entries" after={list.items.length} />
      {list.items.length === 0 ? (
        <Empty title="Nothing yet for this machine and material">What somebody adds below stands here.</Empty>
      ) : (
        <div className={css.scroll}>
          <table className={css.entries}>
            <thead>
              <tr>
                <th>From</th>
                <th>To</th>
                <th className={css.right}>For, {unit}</th>
                <th className={css.right}>W</th>
                <th className={css.right}>mm/s</th>
                <th className={css.right}>Passes</th>
                <th className={css.right}>J/mm</th>
                <th className={css.right}>Ratio</th>
                <th>Here</th>
                <th>Results</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {list.items.map((i) => (
                <tr key={i.id} data-setting={i.number} aria-selected={i.id === list.suggestion?.id}>
                  <td>
                    <b>{i.originWords}</b>
                    <span className={css.quiet}>
                      {entryName(i.number)}, {i.by}, {time.date(i.at)}
                    </span>
                  </td>
                  <td>{i.operation}</td>
                  <td className={css.right}>{lengthIn(unit, i.thicknessMm)}</td>
                  <td className={css.right}>{i.watts}</td>
                  <td className={css.right}>{i.speedMmPerS}</td>
                  <td className={css.right}>{i.passes}</td>
                  <td className={css.right}>{i.jPerMm}</td>
                  <td className={css.right}>{i.ratio}</td>
                  <td>
                    {i.standing && (i.standing !== 'clear' || !i.whyNot) ? (
                      <Standing standing={i.standing} width={18} />
                    ) : (
                      <span className={css.quiet}>{i.whyNot}</span>
                    )}
                  </td>
                  <td>{i.results}</td>
                  <td>{i.mayEnd && <TakeOut id={i.id} />}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}

function TakeOut({ id }: { id: string }) {
  const end = usePress(() => answer(client.POST('/api/settings/{id}/end', { params: { path: { id } } })))
  return (
    <>
      <button type="button" className="quietlink" disabled={end.isPending} onClick={() => end.mutate()}>
        Take it out
      </button>
      <Failure error={end.error} />
    </>
  )
}
