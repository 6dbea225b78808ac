import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { Busy, Problem } from '../Shell'

/** "weighs 1.4 times as much (1.1 to 1.8)" */
export const weighs = (l: Schemas['Lesson']): string =>
  `${l.factor.toFixed(1)} times the odds (${l.low.toFixed(1)} to ${l.high.toFixed(1)})`

/** What the firm's own closed cases teach the scales: shown, and used only while the owner wants it. */
export function OwnCases({ may }: { may: boolean }) {
  const queries = useQueryClient()
  const lessons = useQuery({ queryKey: ['figures', 'lessons'], queryFn: () => got(api.GET('/figures/lessons')) })
  const change = useMutation({
    mutationFn: (body: Schemas['LessonsUse']) => got(api.PUT('/figures/lessons', { body })),
    onSuccess: (data) => queries.setQueryData(['figures', 'lessons'], data),
    onError: () => queries.invalidateQueries({ queryKey: ['figures', 'lessons'] }),
  })
  if (lessons.isLoadingError) return <Problem error={lessons.error} />
  if (!lessons.data) return <Busy what="your own cases" />
  const l = lessons.data
  const left = l.lessons.filter((x) => x.left_out).map((x) => x.cause)
  const put = (used: boolean, without: string[]) => change.mutate({ used, without, version: l.version })
  return (
    <section aria-label="What your own cases teach" className="own-cases">
      <h2>What your own cases teach</h2>
      {l.cases < l.least ? (
        <p className="faint">
          From {l.least} closed cases on, the scales can learn which causes your lawns have more often, or less, than the tables say. So far
          you have {l.cases === 0 ? 'none' : l.cases}.
        </p>
      ) : l.lessons.length === 0 ? (
        <p className="faint">Your {l.cases} closed cases are much like the tables expect. There is nothing to learn from them yet.</p>
      ) : (
        <>
          <p>
            {l.used
              ? `The scales use what your ${l.cases} closed cases say. It stands in every ledger on a line of its own.`
              : `Your ${l.cases} closed cases differ from the tables. The scales do not use that yet.`}
          </p>
          <ul>
            {l.lessons.map((x) => (
              <li key={x.cause} data-left={x.left_out}>
                <label>
                  <input
                    type="checkbox"
                    checked={!x.left_out}
                    disabled={!may || change.isPending}
                    onChange={() => put(l.used, x.left_out ? left.filter((c) => c !== x.cause) : [...left, x.cause])}
                  />
                  <b>{x.label}</b>
                </label>
                <span>
                  {x.seen} {x.seen === 1 ? 'case' : 'cases'}, the tables expect {x.expected.toFixed(1)}
                </span>
                <span className="num">{weighs(x)}</span>
              </li>
            ))}
          </ul>
          {may && (
            <p>
              <button type="button" className="answer" disabled={change.isPending} onClick={() => put(!l.used, left)}>
                {l.used ? 'Stop using them' : 'Use them in the scales'}
              </button>
            </p>
          )}
          <p className="faint">
            The tables count as much as ten cases of each cause, and no odds move by more than double or half. Diagnoses already saved stay
            as they are.
          </p>
        </>
      )}
      {change.isError && <Problem error={change.error} />}
    </section>
  )
}
