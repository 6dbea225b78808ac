import { StrictMode, Suspense, useEffect, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { ErrorBoundary } from 'react-error-boundary'
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
import { memory } from './offline/memory'
import { Busy, Problem, Shell } from './Shell'
import { Guarded, LastResort } from './ui/Fallen'
import { Addressed, NoPage } from './ui/NoPage'
import { view } from './ui/view'
import { antTheme, applyTheme, storedTheme, storeTheme, type ThemeName } from './theme'

/** The parts of an address that name something by its id. */
const addressed = ['visit', 'zone', 'sample', 'call', 'trial', 'site']

const SignIn = view(() => import('./sign-in/SignIn'))
const Day = view(() => import('./day/Day'))
const Visit = view(() => import('./visit/Visit'))
const Plan = view(() => import('./plan/Plan'))
const RecordView = view(() => import('./record/Record'))
const VisitRecovery = view(() => import('./recovery/VisitRecovery'))
const ZoneRecovery = view(() => import('./recovery/ZoneRecovery'))
const Sites = view(() => import('./sites/Sites'))
const SiteMap = view(() => import('./sites/SiteMap'))
const ClientView = view(() => import('./client/ClientView'))
const ForClient = view(() => import('./client/ForClient'))
const Tell = view(() => import('./client/Tell'))
const Messages = view(() => import('./messages/Messages'))
const TrialPage = view(() => import('./trials/TrialPage'))
const CallPage = view(() => import('./calls/CallPage'))
const Causes = view(() => import('./causes/Causes'))
const CausePage = view(() => import('./causes/CausePage'))
const Sky = view(() => import('./sky/Sky'))
const ZoneSky = view(() => import('./sky/Sky').then((m) => ({ default: m.ZoneSky })))
const Beside = view(() => import('./causes/Beside'))
const SampleForm = view(() => import('./samples/SampleForm'))
const Prices = view(() => import('./firm/Prices'))
const Firm = view(() => import('./firm/Firm'))
const Letters = view(() => import('./firm/Letters'))
const Figures = view(() => import('./firm/Figures'))
const Bench = view(() => import('./bench/Bench'))
const Train = view(() => import('./train/Train'))
const Shelf = view(() => import('./shelf/Shelf'))
const Calendar = view(() => import('./calendar/Calendar'))
const Review = view(() => import('./calendar/Review'))
const Rules = view(() => import('./firm/Rules'))
const BookPage = view(() => import('./record/Book'))
const Account = view(() => import('./account/Account'))
const Licences = view(() => import('./account/Licences'))
const Log = view(() => import('./account/Log'))
const SetPassword = view(() => import('./account/SetPassword'))

function SignedIn({ theme, onTheme }: { theme: ThemeName; onTheme: (t: ThemeName) => void }) {
  const me = useMe()
  const known = me.data !== undefined
  // what is needed on the lawn is fetched while there is a connection, so that it opens without one
  useEffect(() => {
    if (!known) return
    const t = setTimeout(() => [Visit, Plan, RecordView, VisitRecovery, Sky].forEach((v) => v.preload()), 1500)
    return () => clearTimeout(t)
  }, [known])
  if (me.error instanceof Refused && me.error.status === 401) return <Navigate to="/sign-in" replace />
  if (me.isLoadingError) return <Problem error={me.error} />
  if (!me.data) return <Busy what="your day" />
  if (me.data.must_enrol)
    return (
      <Shell me={me.data} theme={theme} onTheme={onTheme}>
        <Guarded>
          <Suspense fallback={<Busy what="the page" />}>
            <Account />
          </Suspense>
        </Guarded>
      </Shell>
    )
  return (
    <Shell me={me.data} theme={theme} onTheme={onTheme}>
      <Guarded>
        <Suspense fallback={<Busy what="the page" />}>
          <Routes>
            <Route path="/" element={<Day />} />
            <Route element={<Addressed ids={addressed} />}>
              <Route path="/visits/:visit" element={<Visit />} />
              <Route path="/visits/:visit/:zone" element={<Visit />} />
              <Route path="/visits/:visit/:zone/sky" element={<Sky />} />
              <Route path="/visits/:visit/:zone/plan" element={<Plan />} />
              <Route path="/visits/:visit/:zone/record" element={<RecordView />} />
              <Route path="/visits/:visit/:zone/recovery" element={<VisitRecovery />} />
              <Route path="/zones/:zone/recovery" element={<ZoneRecovery />} />
              <Route path="/zones/:zone/sky" element={<ZoneSky />} />
              <Route path="/samples/:sample" element={<SampleForm />} />
              <Route path="/calls/:call" element={<CallPage />} />
              <Route path="/trials/:trial" element={<TrialPage />} />
              <Route path="/sites/:site" element={<Sites />} />
              <Route path="/sites/:site/client" element={<ClientView />} />
              <Route path="/sites/:site/map" element={<SiteMap />} />
            </Route>
            <Route path="/messages" element={<Messages />} />
            <Route path="/sites" element={<Sites />} />
            <Route path="/causes" element={<Causes />} />
            <Route path="/causes/:cause" element={<CausePage />} />
            <Route path="/causes/:cause/beside/:other" element={<Beside />} />
            <Route path="/bench" element={<Bench />} />
            <Route path="/bench/:calculation" element={<Bench />} />
            <Route path="/train" element={<Train />} />
            <Route path="/shelf" element={<Shelf />} />
            <Route path="/shelf/:product" element={<Shelf />} />
            <Route path="/calendar" element={<Calendar />} />
            <Route path="/review" element={<Review />} />
            <Route path="/book" element={<BookPage />} />
            <Route path="/firm/rules" element={<Rules />} />
            <Route path="/firm/prices" element={<Prices />} />
            <Route path="/firm/letters" element={<Letters />} />
            <Route path="/firm/figures" element={<Figures />} />
            <Route path="/firm/log" element={<Log />} />
            <Route path="/firm" element={<Firm />} />
            <Route path="/account" element={<Account />} />
            <Route path="/licences" element={<Licences />} />
            <Route path="*" element={<NoPage />} />
          </Routes>
        </Suspense>
      </Guarded>
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
            <Guarded>
              <Routes>
                <Route path="/sign-in" element={<SignIn />} />
                <Route path="/for/:token" element={<ForClient />} />
                <Route path="/for/:token/tell" element={<Tell />} />
                <Route path="/for/:token/tell" element={<Tell />} />
                <Route path="/set-password/:token" element={<SetPassword />} />
                <Route path="/*" element={<SignedIn theme={theme} onTheme={setTheme} />} />
              </Routes>
            </Guarded>
          </Suspense>
        </BrowserRouter>
      </QueryClientProvider>
    </ConfigProvider>
  )
}

applyTheme(storedTheme())
const root = document.getElementById('root')
void memory.recall().then(() => {
  memory.watch()
  if (!root) return
  createRoot(root).render(
    <StrictMode>
      <ErrorBoundary FallbackComponent={LastResort}>
        <App />
      </ErrorBoundary>
    </StrictMode>,
  )
})
// a page that is not served safely, or is being developed, has no worker that keeps its files
if (import.meta.env.PROD && 'serviceWorker' in navigator) void navigator.serviceWorker.register('/sw.js', { updateViaCache: 'none' })
