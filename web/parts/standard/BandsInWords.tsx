import type { RubricBody } from '#contract'
import { numeral } from '../format'

/** Words for the whole, the best band first. */
export function BandsInWords({ bands = [] }: { bands?: RubricBody['bands'] }) {
  if (bands.length === 0) return null
  return (
    <table className="grid mt-2" style={{ maxWidth: 560 }}>
      <caption className="soft small" style={{ captionSide: 'top' }}>
        The whole in words
      </caption>
      <tbody>
        {[...bands]
          .sort((a, b) => b.from - a.from)
          .map((b) => (
            <tr key={b.from}>
              <td className="number soft" style={{ width: 90 }}>
                from {numeral(b.from)}%
              </td>
              <td dir="auto">{b.words}</td>
            </tr>
          ))}
      </tbody>
    </table>
  )
}
