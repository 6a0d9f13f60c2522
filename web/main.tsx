// Each comes in parts, of which a browser fetches those whose letters stand on the page.
import '@fontsource/source-sans-3/400.css'
import '@fontsource/source-sans-3/600.css'
import '@fontsource/source-serif-4/400.css'
import '@fontsource/source-serif-4/600.css'
import 'bootstrap/dist/css/bootstrap.min.css'
import './theme/tokens.css'
import './theme/bootstrap.css'
import './theme/base.css'
import './theme/layout.css'
import './theme/print.css'
import './parts/parts.css'
import './theme/forced-colours.css'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { OfflineError, page } from './api/client'
import { wearAppearance } from './settings/appearance'
import { fetchAhead } from './session/ahead'
import { leaveWithOthers } from './session/leave'
import { App } from './shell/App'
import { NewVersion } from './shell/NewVersion'
import { keepFocus } from './shell/focus-kept'

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      refetchOnWindowFocus: false,
      retry: (count, error) => error instanceof OfflineError && count < 5,
      // What a browser thinks of the network says nothing of a server on this machine, nor of what is worked out in the page.
      networkMode: 'always',
      refetchOnReconnect: true,
    },
    mutations: { networkMode: 'always' },
  },
})

page.signedOut = () => void queries.invalidateQueries({ queryKey: ['me'] })
fetchAhead(queries, location.pathname)
// Its code comes beside what it shows, and not at the door.
if (location.pathname.startsWith('/courses/')) void import('./shell/CourseFrame').catch(() => undefined)
wearAppearance()
keepFocus()
leaveWithOthers()
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <NewVersion />
      <App />
    </QueryClientProvider>
  </StrictMode>,
)
