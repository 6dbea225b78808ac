import { memory } from '../offline/memory'
import { useEffect, useState } from 'react'
import { Button, Input } from 'antd'
import { useMutation } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, got, Refused } from '../api/client'
import { queryClient, useLetters, useWelcome } from '../api/queries'
import { Problem } from '../Shell'
import { outbox } from '../visit/box'
import '../account/account.css'
import './sign-in.css'

type Role = 'technician' | 'applicator' | 'office' | 'owner'
const demoPeople: [Role, string, string][] = [
  ['technician', 'Tam Whitlock', 'technician: scouts, treats, follows up'],
  ['applicator', 'Rufus Adeyo', 'licensed applicator: signs sprays'],
  ['office', 'Lena Scholl', 'office: books and keeps sites'],
  ['owner', 'Dora Venn', 'owner: people and settings'],
]

export default function SignIn() {
  const welcome = useWelcome()
  const navigate = useNavigate()
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  // whoever signs in next may be another person: nothing of the last one's is sent until they are back
  useEffect(() => {
    outbox.close()
    void memory.forget()
  }, [])
  const entered = () => {
    queryClient.clear()
    void navigate('/')
  }
  const [code, setCode] = useState('')
  const plain = useMutation({
    mutationFn: () => got(api.POST('/sign-in', { body: { email, password, ...(code ? { code } : {}) } })),
    onSuccess: entered,
  })
  const asksCode = plain.error instanceof Refused && plain.error.fields.some((f) => f.field === 'code')
  const [withCode, setWithCode] = useState(false)
  if (asksCode && !withCode) setWithCode(true)
  const letters = useLetters(welcome.data?.demo ?? false)
  const demo = useMutation({ mutationFn: (role: Role) => got(api.POST('/sign-in/demo', { body: { role } })), onSuccess: entered })
  return (
    <div className="sign-in">
      <section className="sign-in-say">
        <img src="/mark.svg" alt="" width="56" height="56" />
        <h1>Hodos</h1>
        <p>What is wrong with the lawn, what to do, what to leave, and whether it is getting better. Every reason on the table.</p>
        <svg viewBox="0 0 420 150" className="sign-in-art" aria-hidden="true">
          <path className="art-ground" d="M0 96c60 0 60-14 120-14s70 16 140 16 90-12 160-12v64H0z" />
          {Array.from({ length: 70 }, (_, i) => {
            const x = i * 6 + 3
            const sick = x > 150 && x < 262
            const h = sick ? 9 + ((i * 7) % 9) : 24 + ((i * 11) % 17)
            const y = 92 - 8 * Math.sin((x / 420) * 6.3)
            return (
              <path
                key={i}
                className={sick ? 'art-straw' : 'art-blade'}
                d={`M${x} ${y}q${((i % 5) - 2) * 2} ${-h / 2} ${((i % 7) - 3) * 1.6} ${-h}`}
              />
            )
          })}
          <path className="art-core" d="M196 92v44h20V92" />
          <path className="art-layer" d="M196 108h20M196 124h20" />
        </svg>
      </section>
      <section className="sign-in-do">
        {welcome.data?.demo && (
          <>
            <h2>Look around in the demo</h2>
            <p className="faint">An invented firm on a simulated clock under a simulated sky.</p>
            <div className="demo-people">
              {demoPeople.map(([role, name, does]) => (
                <button key={role} type="button" data-demo={role} disabled={demo.isPending} onClick={() => demo.mutate(role)}>
                  <b>{name}</b>
                  <span className="faint">{does}</span>
                </button>
              ))}
            </div>
            {demo.isError && <Problem error={demo.error} />}
            <h2>Or sign in</h2>
          </>
        )}
        {!welcome.data?.demo && <h2>Sign in</h2>}
        <form
          onSubmit={(e) => {
            e.preventDefault()
            plain.mutate()
          }}
        >
          <label>
            Email <Input type="email" autoComplete="username" required value={email} onChange={(e) => setEmail(e.target.value)} />
          </label>
          <label>
            Password{' '}
            <Input.Password autoComplete="current-password" required value={password} onChange={(e) => setPassword(e.target.value)} />
          </label>
          {withCode && (
            <label>
              Code from your authenticator app, or a recovery code{' '}
              <Input autoFocus autoComplete="one-time-code" required value={code} onChange={(e) => setCode(e.target.value)} />
            </label>
          )}
          <Button type="primary" htmlType="submit" loading={plain.isPending}>
            Sign in
          </Button>
          {plain.isError && !(asksCode && !code) && <Problem error={plain.error} />}
        </form>
        <p className="faint">Forgotten your password? Ask an owner of your firm for a link to set a new one.</p>
        {letters.data && letters.data.length > 0 && (
          <section className="sign-in-letters" aria-label="Simulated mail">
            <h2>Simulated mail</h2>
            {letters.data.slice(0, 3).map((l) => (
              <article key={l.text}>
                <p>
                  <b>{l.subject}</b>
                  <br />
                  <span className="faint">to {l.to}</span>
                </p>
                <pre>
                  {l.text.split(/(https?:\/\/\S+)/).map((part, i) =>
                    i % 2 ? (
                      <a key={part} href={part}>
                        {part}
                      </a>
                    ) : (
                      part
                    ),
                  )}
                </pre>
              </article>
            ))}
          </section>
        )}
      </section>
    </div>
  )
}
