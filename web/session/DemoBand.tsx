import { useQuery } from '@tanstack/react-query'
import { installationQuery } from './installation-query'
import styles from './demo-band.module.css'

/** Says that people and marks are made up, where they are. */
export function DemoBand() {
  const { data } = useQuery(installationQuery)
  return data?.demo ? (
    <span className={styles.band} title="The people and marks here are made up">
      demo
    </span>
  ) : null
}
