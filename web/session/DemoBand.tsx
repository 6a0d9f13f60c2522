import { useQuery } from '@tanstack/react-query'
import { installationQuery } from './installation-query'

/** Says that people and marks are made up, where they are. */
export function DemoBand() {
  const { data } = useQuery(installationQuery)
  return data?.demo ? (
    <span className="demo-band" title="The people and marks here are made up">
      demo
    </span>
  ) : null
}
