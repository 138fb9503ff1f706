import '@fontsource-variable/besley'
import '@fontsource-variable/atkinson-hyperlegible-next'
import 'bootstrap/dist/css/bootstrap.min.css'
import './shared/theme/ground.css'
import './shared/theme/controls.css'
import './shared/theme/marks.css'
import './shared/theme/frame.css'
import './shared/theme/page.css'
import './app/app.css'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Route, Routes } from 'react-router'
import { App } from './app/App'
import { Fetched } from './app/Fetched'
import { EmergencyPage, ListPage, VerifyPage } from './app/rooms'
import { ApiError } from './shared/api'

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
        <Fetched>
          <Routes>
            <Route path="/emergency/:machine" element={<EmergencyPage />} />
            <Route path="/list" element={<ListPage />} />
            <Route path="/list/:machine" element={<ListPage />} />
            <Route path="/verify/:id" element={<VerifyPage />} />
            <Route path="*" element={<App />} />
          </Routes>
        </Fetched>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
)
