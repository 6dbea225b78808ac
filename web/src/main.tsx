import { lazy, StrictMode, Suspense, useEffect, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Navigate, Route, Routes } from 'react-router'
import { QueryClientProvider } from '@tanstack/react-query'
import { ConfigProvider } from 'antd'
import '@fontsource/atkinson-hyperlegible/latin-400.css'
import '@fontsource/atkinson-hyperlegible/latin-700.css'
import '@fontsource/atkinson-hyperlegible/latin-ext-400.css'
import '@fontsource/atkinson-hyperlegible/latin-ext-700.css'
import './look.css'
import './parts.css'
import { Refused } from './api/client'
import { queryClient, useMe } from './api/queries'
import { Busy, Problem, Shell } from './Shell'
import { antTheme, applyTheme, storedTheme, storeTheme, type ThemeName } from './theme'

const SignIn = lazy(() => import('./sign-in/SignIn'))
const Day = lazy(() => import('./day/Day'))
const Visit = lazy(() => import('./visit/Visit'))
const Plan = lazy(() => import('./plan/Plan'))
const RecordView = lazy(() => import('./record/Record'))
const VisitRecovery = lazy(() => import('./recovery/VisitRecovery'))
const ZoneRecovery = lazy(() => import('./recovery/ZoneRecovery'))
const Sites = lazy(() => import('./sites/Sites'))
const Causes = lazy(() => import('./causes/Causes'))
const CausePage = lazy(() => import('./causes/CausePage'))
const Sky = lazy(() => import('./sky/Sky'))
const ZoneSky = lazy(() => import('./sky/Sky').then((m) => ({ default: m.ZoneSky })))
const Beside = lazy(() => import('./causes/Beside'))
const SampleForm = lazy(() => import('./samples/SampleForm'))
const Prices = lazy(() => import('./firm/Prices'))
const Firm = lazy(() => import('./firm/Firm'))
const Account = lazy(() => import('./account/Account'))
const Log = lazy(() => import('./account/Log'))
const SetPassword = lazy(() => import('./account/SetPassword'))

function SignedIn({ theme, onTheme }: { theme: ThemeName; onTheme: (t: ThemeName) => void }) {
  const me = useMe()
  if (me.isError)
    return me.error instanceof Refused && me.error.status === 401 ? <Navigate to="/sign-in" replace /> : <Problem error={me.error} />
  if (!me.data) return <Busy what="your day" />
  if (me.data.must_enrol)
    return (
      <Shell me={me.data} theme={theme} onTheme={onTheme}>
        <Suspense fallback={<Busy what="the page" />}>
          <Account />
        </Suspense>
      </Shell>
    )
  return (
    <Shell me={me.data} theme={theme} onTheme={onTheme}>
      <Suspense fallback={<Busy what="the page" />}>
        <Routes>
          <Route path="/" element={<Day />} />
          <Route path="/visits/:visit" element={<Visit />} />
          <Route path="/visits/:visit/:zone" element={<Visit />} />
          <Route path="/visits/:visit/:zone/sky" element={<Sky />} />
          <Route path="/visits/:visit/:zone/plan" element={<Plan />} />
          <Route path="/visits/:visit/:zone/record" element={<RecordView />} />
          <Route path="/visits/:visit/:zone/recovery" element={<VisitRecovery />} />
          <Route path="/zones/:zone/recovery" element={<ZoneRecovery />} />
          <Route path="/zones/:zone/sky" element={<ZoneSky />} />
          <Route path="/samples/:sample" element={<SampleForm />} />
          <Route path="/sites" element={<Sites />} />
          <Route path="/sites/:site" element={<Sites />} />
          <Route path="/causes" element={<Causes />} />
          <Route path="/causes/:cause" element={<CausePage />} />
          <Route path="/causes/:cause/beside/:other" element={<Beside />} />
          <Route path="/firm/prices" element={<Prices />} />
          <Route path="/firm/log" element={<Log />} />
          <Route path="/firm" element={<Firm />} />
          <Route path="/account" element={<Account />} />
          <Route
            path="*"
            element={
              <p className="busy">
                There is no page here. <a href="/">To the day</a>
              </p>
            }
          />
        </Routes>
      </Suspense>
    </Shell>
  )
}

function App() {
  const [theme, setTheme] = useState<ThemeName>(storedTheme)
  useEffect(() => {
    applyTheme(theme)
    storeTheme(theme)
  }, [theme])
  const nonce = document.querySelector<HTMLMetaElement>('meta[name=csp-nonce]')?.content ?? ''
  return (
    <ConfigProvider theme={antTheme(theme)} csp={{ nonce }} wave={{ disabled: true }}>
      <QueryClientProvider client={queryClient}>
        <BrowserRouter>
          <Suspense fallback={<Busy what="the page" />}>
            <Routes>
              <Route path="/sign-in" element={<SignIn />} />
              <Route path="/set-password/:token" element={<SetPassword />} />
              <Route path="/*" element={<SignedIn theme={theme} onTheme={setTheme} />} />
            </Routes>
          </Suspense>
        </BrowserRouter>
      </QueryClientProvider>
    </ConfigProvider>
  )
}

applyTheme(storedTheme())
const root = document.getElementById('root')
if (root)
  createRoot(root).render(
    <StrictMode>
      <App />
    </StrictMode>,
  )
