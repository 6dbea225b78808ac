/** The two ways to water through a summer, as the screens name them. */
export const policies: Record<string, string> = { 'keep-green': 'Keep it green', 'let-rest': 'Let it rest' }
