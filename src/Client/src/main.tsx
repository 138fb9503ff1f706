import '@fontsource-variable/besley'
import '@fontsource-variable/atkinson-hyperlegible-next'
import 'bootstrap/dist/css/bootstrap.min.css'
import './kit/theme/ground.css'
import './kit/theme/controls.css'
import './kit/theme/marks.css'
import './kit/theme/frame.css'
import './kit/theme/page.css'
import './app/app.css'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'
import { App } from './app/App'
import { ApiError } from './kit/api'

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      refetchOnWindowFocus: false,
      // A refusal is final; a lost connection is tried again.
      retry: (count, error) =>
        count < 2 && !(error instanceof ApiError && error.problem.status >= 400 && error.problem.status < 500),
    },
  },
})

// Keeps the emergency cards when the network is gone; browsers allow it on HTTPS and on this machine itself.
if ('serviceWorker' in navigator) void navigator.serviceWorker.register('/sw.js').catch(() => undefined)

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
)

// Cards and near misses are there without a network, whoever has used the house on this device.
// Fetched apart: what both front ends share would carry their styles along, in front of those it has to come after.
void import('./public/keep').then(({ keepForOffline }) => keepForOffline())
