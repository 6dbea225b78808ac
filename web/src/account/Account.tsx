import { useState } from 'react'
import { Button } from 'antd'
import { useMutation, useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, got, type Schemas } from '../api/client'
import { queryClient, useMe, usePeople, useRefresh, useWelcome } from '../api/queries'
import { showDate } from '../format'
import { Busy, Problem } from '../Shell'
import { Buttons, Password, Pick, Text } from '../ui/Field'
import { Morning } from './Morning'
import { ago, browserOf } from './words'
import './account.css'

const forms = [
  ['', 'as the firm'],
  ['dmy', 'day month year'],
  ['mdy', 'month day, year'],
  ['ymd', 'year-month-day'],
] as const
const systems = [
  ['', 'as the firm'],
  ['metric', 'metric'],
  ['us', 'US customary'],
] as const

function Own({ mine }: { mine: Schemas['Person'] }) {
  const refresh = useRefresh()
  const save = useMutation({
    mutationFn: (change: Partial<Pick<Schemas['Person'], 'unit_system' | 'date_form' | 'morning_letter'>>) =>
      got(
        api.PUT('/me/settings', {
          body: { unit_system: mine.unit_system, date_form: mine.date_form, morning_letter: mine.morning_letter ?? false, ...change },
        }),
      ),
    onSuccess: refresh,
  })
  return (
    <section className="form" aria-label="My settings">
      <h2>Units and dates</h2>
      <div className="fields">
        <Pick label="My units" value={mine.unit_system} onChange={(unit_system) => save.mutate({ unit_system })} options={systems} />
        <Pick label="My dates" value={mine.date_form} onChange={(date_form) => save.mutate({ date_form })} options={forms} />
      </div>
      <h2>Morning e-mail</h2>
      <Morning wanted={mine.morning_letter ?? false} onWanted={(morning_letter) => save.mutate({ morning_letter })} />
      {save.isError && <Problem error={save.error} />}
    </section>
  )
}

function NewPassword() {
  const [current, setCurrent] = useState('')
  const [password, setPassword] = useState('')
  const save = useMutation({
    mutationFn: () => got(api.PUT('/me/password', { body: { current, password } })),
    onSuccess: async () => {
      setCurrent('')
      setPassword('')
      await queryClient.invalidateQueries({ queryKey: ['sessions'] })
    },
  })
  return (
    <form
      aria-label="Password"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h2>Password</h2>
      <Password label="Current password" value={current} onChange={setCurrent} />
      <Password
        label="New password"
        fresh
        value={password}
        onChange={setPassword}
        hint="At least 10 characters. Three or four words that do not belong together are easy to keep and hard to guess."
      />
      {save.isSuccess && (
        <p className="done" role="status">
          Password changed. You are signed out everywhere else.
        </p>
      )}
      <Buttons save="Change the password" pending={save.isPending} error={save.error} />
    </form>
  )
}

/** The codes for a lost phone: shown once. */
function Spare({ codes, onDone }: { codes: string[]; onDone: () => void }) {
  return (
    <div className="spare" role="status">
      <p>
        <b>Keep these recovery codes somewhere safe.</b> Each one signs you in once if you lose your phone. They are shown only now.
      </p>
      <ol>
        {codes.map((c) => (
          <li key={c}>
            <code>{c}</code>
          </li>
        ))}
      </ol>
      <p className="buttons">
        <Button onClick={() => void navigator.clipboard.writeText(codes.join('\n'))}>Copy</Button>
        <Button type="primary" onClick={onDone}>
          I have kept them
        </Button>
      </p>
    </div>
  )
}

function SecondFactor({ me }: { me: Schemas['Me'] }) {
  const refresh = useRefresh()
  const [code, setCode] = useState('')
  const [current, setCurrent] = useState('')
  const begin = useMutation({ mutationFn: () => got(api.POST('/me/second-factor')) })
  const confirm = useMutation({ mutationFn: () => got(api.POST('/me/second-factor/confirm', { body: { code } })) })
  const end = useMutation({
    mutationFn: () => got(api.POST('/me/second-factor/end', { body: { current } })),
    onSuccess: async () => {
      setCurrent('')
      await refresh()
    },
  })
  const done = () => {
    begin.reset()
    confirm.reset()
    setCode('')
    void refresh()
  }
  return (
    <section aria-label="Second factor">
      <h2>Second factor</h2>
      {confirm.data ? (
        <Spare codes={confirm.data.codes} onDone={done} />
      ) : me.second_factor ? (
        <form
          onSubmit={(e) => {
            e.preventDefault()
            end.mutate()
          }}
        >
          <p>On: signing in asks for a code from your authenticator app.</p>
          <Password label="Password, to turn it off" value={current} onChange={setCurrent} />
          <Buttons save="Turn it off" pending={end.isPending} error={end.error} />
        </form>
      ) : begin.data ? (
        <form
          aria-label="Set up the second factor"
          onSubmit={(e) => {
            e.preventDefault()
            confirm.mutate()
          }}
        >
          <p>Scan this with your authenticator app, or type the key into it. Then enter the six figures it shows.</p>
          <div className="enrol">
            <img src={begin.data.image} alt="Code to scan with an authenticator app" width="220" height="220" />
            <p>
              Key
              <br />
              <code>{begin.data.secret.replace(/(.{4})/g, '$1 ')}</code>
            </p>
          </div>
          <Text label="Code" required autoComplete="one-time-code" value={code} onChange={setCode} />
          <Buttons save="Turn it on" pending={confirm.isPending} error={confirm.error} onClose={() => begin.reset()} />
        </form>
      ) : (
        <>
          <p>Off. With it on, a stolen password alone does not sign anybody in: it takes a code from your phone too.</p>
          {begin.isError && <Problem error={begin.error} />}
          <p className="buttons">
            <Button type={me.must_enrol ? 'primary' : 'default'} loading={begin.isPending} onClick={() => begin.mutate()}>
              Set it up
            </Button>
          </p>
        </>
      )}
    </section>
  )
}

function Sessions({ me }: { me: Schemas['Me'] }) {
  const sessions = useQuery({ queryKey: ['sessions'], queryFn: () => got(api.GET('/me/sessions')) })
  const again = () => queryClient.invalidateQueries({ queryKey: ['sessions'] })
  const end = useMutation({
    mutationFn: (id: string) => got(api.DELETE('/me/sessions/{id}', { params: { path: { id } } })),
    onSuccess: again,
  })
  const others = useMutation({ mutationFn: () => got(api.POST('/me/sessions/end-others')), onSuccess: again })
  if (sessions.isLoadingError) return <Problem error={sessions.error} />
  if (!sessions.data) return <Busy what="where you are signed in" />
  return (
    <section aria-label="Signed in">
      <h2>Where you are signed in</h2>
      <table className="sessions">
        <tbody>
          {sessions.data.map((s) => (
            <tr key={s.id} data-this={s.this}>
              <th scope="row">
                {browserOf(s.agent)}
                <span className="faint">
                  {s.network}, since {showDate(s.since, me.date_form)}
                </span>
              </th>
              <td>{s.this ? 'this device' : ago(s.seen, new Date())}</td>
              <td>
                {!s.this && (
                  <Button size="small" loading={end.isPending && end.variables === s.id} onClick={() => end.mutate(s.id)}>
                    Sign it out
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {(end.isError || others.isError) && <Problem error={end.error ?? others.error} />}
      {sessions.data.length > 1 && (
        <p className="buttons">
          <Button loading={others.isPending} onClick={() => others.mutate()}>
            Sign out everywhere else
          </Button>
        </p>
      )}
      <p className="faint">A session that nobody uses ends after twelve hours.</p>
    </section>
  )
}

/** One's own account: what nobody else can set. */
export default function Account() {
  const me = useMe().data
  const people = usePeople(!me?.must_enrol)
  if (!me) return <Busy what="your account" />
  const mine = people.data?.find((p) => p.id === me.person_id)
  return (
    <main className="account">
      <h1>Your account</h1>
      <p className="faint">
        {me.name}, {me.role} at {me.firm}; you sign in as {me.email}
      </p>
      {me.must_enrol && (
        <p className="caution">
          <b>{me.firm} asks owners for a second factor.</b> Set yours up to go on.
        </p>
      )}
      <div className="account-parts">
        <div>
          {!me.must_enrol && <NewPassword />}
          <SecondFactor me={me} />
        </div>
        {!me.must_enrol && (
          <div>
            {mine && <Own mine={mine} />}
            <Sessions me={me} />
          </div>
        )}
      </div>
      <About />
    </main>
  )
}

/** Which version this is, and whose work is in it. */
function About() {
  const welcome = useWelcome().data
  return (
    <p className="about faint">
      Hodos {welcome?.version}. <Link to="/licences">Open-source licences</Link>
    </p>
  )
}
