import { useQuery } from '@tanstack/react-query'
import { useDeferredValue } from 'react'
import Form from 'react-bootstrap/Form'
import { Link, useLocation, useSearchParams } from 'react-router'
import { Failure, fieldErrors, Loading, PageHead, RunOn } from '../kit/parts'
import { useMachines, useMaterials } from '../kit/session'
import { useUnit } from '../kit/units'
import { AddSetting } from './AddSetting'
import { Choice } from './Choice'
import { Entries } from './Entries'
import { settingsQuery, type SettingWish } from './settingQueries'
import { Suggested } from './Suggested'
import css from './settings.module.css'

/** The house's library of settings: what worked here, on which machine, and the one to begin with. */
export function SettingsPage() {
  const [params, setParams] = useSearchParams()
  const location = useLocation()
  const unit = useUnit()
  const machines = useMachines()
  const materials = useMaterials()
  const operation = params.get('operation')
  const wish: SettingWish = {
    operation: operation === 'score' || operation === 'engrave' ? operation : 'cut',
    materialId: params.get('material') ?? '',
    machineId: params.get('machine') ?? '',
    thickness: params.get('thickness') ?? '',
  }
  const put = (name: string) => (value: string) => {
    params.set(name, value)
    setParams(params, { replace: true })
  }
  const list = useQuery(settingsQuery(useDeferredValue(wish), unit))
  const asked = wish.materialId && wish.machineId && wish.thickness.trim()
  const errors = asked ? fieldErrors(list.error) : {}
  const found = asked && !list.error ? list.data : undefined
  return (
    <>
      <PageHead title="Settings" sub="The house’s library: what worked here, on this machine">
        <Link to={`/materials/test-pieces${location.search}`}>Test pieces</Link>
        <Link to="/materials/calculators">Calculators</Link>
        <Link to="/materials">Materials</Link>
      </PageHead>
      <div className={css.question} role="search" aria-label="Settings for">
        <span>To</span>
        <Choice
          label="Operation"
          value={wish.operation}
          put={put('operation')}
          options={['cut', 'score', 'engrave'].map((o) => ({ id: o, name: o }))}
        />
        <Choice
          label="Material"
          value={wish.materialId}
          put={put('material')}
          none="choose a material"
          options={materials.data ?? []}
        />
        <span>measured</span>
        <Form.Control
          size="sm"
          aria-label="Thickness measured, the thinnest place"
          placeholder={unit === 'in' ? '1/8 in' : '2.9 mm'}
          value={wish.thickness}
          isInvalid={!!errors.thickness}
          onChange={(e) => put('thickness')(e.target.value)}
        />
        <span>on</span>
        <Choice
          label="Machine"
          value={wish.machineId}
          put={put('machine')}
          none="choose a machine"
          options={machines.data ?? []}
        />
        {errors.thickness && (
          <span className="invalid-feedback d-block" role="alert">
            {errors.thickness.join(' ')}
          </span>
        )}
      </div>
      {!asked && (
        <>
          <RunOn title="Say what you will run" />
          <p className="quiet mt-2">
            Choose the material, the machine and the thickness you measured. The setting to begin with stands here, and
            why.
          </p>
        </>
      )}
      {asked && list.isPending && <Loading what="the settings" />}
      {Object.keys(errors).length === 0 && (
        <Failure error={asked ? list.error : null} retry={() => void list.refetch()} />
      )}
      {found && (
        <div className={css.library}>
          <aside>
            <Suggested list={found} wish={wish} />
            <section className="mt-4">
              <h2 className={css.small}>If it comes out otherwise</h2>
              <dl className={css.next}>
                {found.next.map((step) => (
                  <div key={step.after}>
                    <dt>{step.after}</dt>
                    <dd>{step.do}</dd>
                  </div>
                ))}
              </dl>
            </section>
          </aside>
          <div>
            <Entries list={found} />
            {found.mayAdd && (
              <AddSetting
                key={`${wish.machineId} ${wish.materialId} ${wish.operation}`}
                wish={wish}
                technician={found.mayAddTechnicians}
                guess={found.guess}
              />
            )}
          </div>
        </div>
      )}
    </>
  )
}
