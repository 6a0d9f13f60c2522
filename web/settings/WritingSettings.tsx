import { DAYS, DECIMALS, type OwnSettings } from '#contract/own-settings'
import { useWrites } from '../saving/writes'
import { OneOf } from './OneOf'
import { useOwnSettings } from './own-settings'

const NUMBERS: Record<OwnSettings['decimal'], string> = { point: '62.5', comma: '62,5' }
const WRITTEN: Record<OwnSettings['days'], string> = { 'day first': '7 Sep 2026', 'year first': '2026-09-07' }

/** How numbers and days are shown to this person, wherever they sign in; both are read either way. */
export function WritingSettings() {
  const { write } = useWrites()
  const { settings, change } = useOwnSettings()
  const set = (label: string, next: Partial<OwnSettings>, back: Partial<OwnSettings>) =>
    void write(
      label,
      () => change(next),
      () => change(back),
    )
  return (
    <section className="mt-4" aria-labelledby="writing">
      <h2 id="writing">How numbers and days are written</h2>
      <OneOf
        name="decimal"
        words="numbers"
        choices={DECIMALS}
        chosen={settings.decimal}
        say={(x) => NUMBERS[x]}
        onChoose={(decimal) => set('how numbers are written', { decimal }, { decimal: settings.decimal })}
      />
      <OneOf
        name="days"
        words="days"
        choices={DAYS}
        chosen={settings.days}
        say={(x) => WRITTEN[x]}
        onChoose={(days) => set('how days are written', { days }, { days: settings.days })}
      />
      <p className="soft small">Typed, each is understood either way. Files are written as their formats say.</p>
    </section>
  )
}
