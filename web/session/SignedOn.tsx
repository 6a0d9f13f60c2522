import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { doorRoutes } from '#contract/door'
import { call, messageOf } from '../api/client'
import { ByProvider } from './ByProvider'
import { wantedPage, withinTime } from './by-provider'
import { comeInAs } from './come-in-as'
import { installationQuery } from './installation-query'
import { Welcome } from './Welcome'

/** The provider sends the browser back here: what it brings is handed to the server, once. */
export function SignedOn() {
  const { search } = useLocation()
  const queries = useQueryClient()
  const navigate = useNavigate()
  const installation = useQuery(installationQuery)
  const came = useQuery({
    queryKey: ['signed on', search],
    queryFn: () => withinTime(call(doorRoutes.finishSignOn, { body: { query: search } }), installation.data?.provider ?? undefined),
    retry: false,
    staleTime: Infinity,
  })
  useEffect(() => {
    if (!came.data) return
    comeInAs(queries, came.data)
    void navigate(wantedPage(), { replace: true })
  }, [came.data, queries, navigate])
  if (!came.error)
    return (
      <p className="empty" role="status">
        Signing you in…
      </p>
    )
  return (
    <Welcome department={installation.data?.department} demo={installation.data?.demo}>
      <h2>You are not in</h2>
      <p className="note bad" role="alert">
        {messageOf(came.error)}
      </p>
      <div className="d-flex align-items-center gap-3">
        {installation.data?.provider && <ByProvider name={installation.data.provider} label="Try again" focus />}
        <a href="/">Back to the door</a>
      </div>
    </Welcome>
  )
}
