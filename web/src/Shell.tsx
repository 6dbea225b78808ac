import { memory } from './offline/memory'
import { useEffect, useState, type ReactNode } from 'react'
import { Button } from 'antd'
import { NavLink, useNavigate } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { api, got, keepToken, ownerOf, Refused, Unreachable, type Schemas } from './api/client'
import { queryClient, useAdvance } from './api/queries'
import { showDate } from './format'
import type { ThemeName } from './theme'
import { outbox } from './visit/box'
import { DeviceBar } from './offline/DeviceBar'
import { OutboxBar, KeptBar, StillHere } from './visit/OutboxBar'
import { useOutbox } from './visit/outbox'

export function Busy({ what }: { what: string }) {
  return (
    <p className="busy" role="status">
      Fetching {what} …
    </p>
  )
}

/** An error in plain words, with the reason for each field. */
export function Problem({ error }: { error: unknown }) {
  const e = error instanceof Error ? error : new Error('Something went wrong')
  return (
    <div className="problem-box" role="alert">
      <p>
        <b>{e.message}</b>
        {e instanceof Unreachable && '. What you entered is kept on this device.'}
      </p>
      {e instanceof Refused && e.fields.length > 0 && (
        <ul>
          {e.fields.map((f) => (
            <li key={f.field + f.reason}>
              <b>{f.field.replaceAll('_', ' ')}</b> {f.reason}
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

export function Shell({
  me,
  theme,
  onTheme,
  children,
}: {
  me: Schemas['Me']
  theme: ThemeName
  onTheme: (t: ThemeName) => void
  children: ReactNode
}) {
  const advance = useAdvance()
  const navigate = useNavigate()
  const [menu, setMenu] = useState(false)
  const [more, setMore] = useState(false)
  const box = useOutbox(outbox)
  const owner = ownerOf(me)
  // what this person left on the device goes out as soon as they are signed in
  useEffect(() => void outbox.open(owner), [owner])
  const out = useMutation({
    mutationFn: () => got(api.POST('/sign-out')),
    onSuccess: () => {
      outbox.close()
      keepToken()
      queryClient.clear()
      void memory.forget()
      void navigate('/sign-in')
    },
  })
  return (
    <>
      <a className="skip" href="#content">
        To the content
      </a>
      <header className="top">
        <NavLink to="/" className="brand">
          <img src="/mark.svg" alt="" width="30" height="30" /> Hodos
        </NavLink>
        <Button size="small" className="top-menu" aria-expanded={more} onClick={() => setMore(!more)}>
          Menu
        </Button>
        <div className="top-rest" data-open={more} onClick={() => setMore(false)}>
          <nav aria-label="Main">
            <NavLink to="/" end>
              Day
            </NavLink>
            <NavLink to="/calendar">Calendar</NavLink>
            <NavLink to="/sites">Sites</NavLink>
            <NavLink to="/causes">Causes</NavLink>
            <NavLink to="/bench">Bench</NavLink>
            <NavLink to="/shelf">Shelf</NavLink>
            <NavLink to="/firm">Firm</NavLink>
          </nav>
          <div className="clock">
            <time dateTime={me.today} className="num" data-today={me.today}>
              {showDate(me.today, me.date_form, true)}
            </time>
            {me.demo && (
              <>
                <span className="tag-sim">simulated</span>
                <Button size="small" loading={advance.isPending} onClick={() => advance.mutate(1)}>
                  + 1 day
                </Button>
                <Button size="small" loading={advance.isPending} onClick={() => advance.mutate(7)}>
                  + 1 week
                </Button>
              </>
            )}
          </div>
          <Button
            size="small"
            onClick={() => onTheme(theme === 'sun' ? 'dusk' : 'sun')}
            aria-label={theme === 'sun' ? 'Dark theme for dusk' : 'Light theme for sun'}
          >
            {theme === 'sun' ? 'Dusk' : 'Sun'}
          </Button>
          <div className="person">
            <Button
              size="small"
              onClick={(e) => {
                e.stopPropagation()
                setMenu(!menu)
              }}
              aria-expanded={menu}
            >
              {me.name}
            </Button>
            {menu && (
              <div className="person-menu">
                <p>
                  {me.role}, {me.firm}
                </p>
                <p>
                  <NavLink to="/account" onClick={() => setMenu(false)}>
                    Your account
                  </NavLink>
                </p>
                <StillHere box={box} />
                <Button loading={out.isPending} onClick={() => out.mutate()}>
                  Sign out
                </Button>
                {out.isError && <Problem error={out.error} />}
              </div>
            )}
          </div>
        </div>
      </header>
      <div id="content">{children}</div>
      <OutboxBar />
      <KeptBar />
      <DeviceBar />
    </>
  )
}
