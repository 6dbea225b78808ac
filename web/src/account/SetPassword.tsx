import { useState } from 'react'
import { useMutation, useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { api, got } from '../api/client'
import { Busy, Problem } from '../Shell'
import { Buttons, Password } from '../ui/Field'
import './account.css'

/** Where a link to set a password leads. */
export default function SetPassword() {
  const { token = '' } = useParams()
  const [password, setPassword] = useState('')
  const whose = useQuery({
    queryKey: ['link', token],
    queryFn: () => got(api.POST('/password-link', { body: { token } })),
    retry: false,
    gcTime: 0,
  })
  const save = useMutation({ mutationFn: () => got(api.POST('/password-link/use', { body: { token, password } })) })
  return (
    <main className="set-password">
      <h1>Set your password</h1>
      {whose.isError && (
        <>
          <Problem error={whose.error} />
          <p>Ask an owner of your firm for a new link.</p>
        </>
      )}
      {whose.isPending && <Busy what="the link" />}
      {whose.data && !save.isSuccess && (
        <form
          aria-label="Set your password"
          onSubmit={(e) => {
            e.preventDefault()
            save.mutate()
          }}
        >
          <p>
            {whose.data.name}, you sign in as <b>{whose.data.email}</b>.
          </p>
          <Password
            label="New password"
            fresh
            value={password}
            onChange={setPassword}
            hint="At least 10 characters. Three or four words that do not belong together are easy to keep and hard to guess."
          />
          <Buttons save="Set the password" pending={save.isPending} error={save.error} />
        </form>
      )}
      {save.isSuccess && (
        <p className="done" role="status">
          Your password is set. <Link to="/sign-in">Sign in</Link>
        </p>
      )}
    </main>
  )
}
