import { useFigures } from '../../../course/course'
import { fixed, numeral, share } from '../../../parts/format'
import styles from '../compare.module.css'
import type { ComparedMarkers } from './figures'

const between = (interval: [number, number] | null) => (interval ? ` (${fixed(interval[0], 2)} to ${fixed(interval[1], 2)})` : '')

/** How far the marking can be relied on, in a sentence and in figures. */
export function ReliabilityLine({ compared }: { compared: ComparedMarkers }) {
  const r = useFigures('reliability', compared.subject)
  const { readings, scripts, unit } = compared
  return (
    <p className="small soft mb-2">
      From {readings} readings of {scripts} scripts, each marker against the others on the same scripts.{' '}
      {!r ? (
        'Working out how alike two readings are…'
      ) : r.pairs === 0 ? (
        'No script was read twice, so nobody can be compared.'
      ) : (
        <>
          Two readings of one script lie{' '}
          <b className={styles.said}>
            {numeral(Number(r.middle!.toFixed(1)))} {unit}
          </b>{' '}
          apart in the middle of cases; {share(r.within)} within tolerance
          <span title="Krippendorff’s alpha: 1 is perfect, 0 what chance gives">
            {' '}
            · α {fixed(r.alpha, 2)}
            {between(r.alphaInterval)}
          </span>
          {r.icc !== null && (
            <span title="Intraclass correlation of one marker’s mark, one-way">
              {' '}
              · ICC(1,1) {fixed(r.icc, 2)}
              {between(r.iccInterval)}
            </span>
          )}
          {r.kappa !== null && (
            <span title="Quadratic weighted kappa on the grade each reading alone would be"> · κ on grades {fixed(r.kappa, 2)}</span>
          )}
        </>
      )}
    </p>
  )
}
