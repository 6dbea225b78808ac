/** Families of causes are told apart by letter and shape as well as colour; docs/look.md lists them. */
const marks: Record<string, { letter: string; path: string }> = {
  disease: { letter: 'D', path: 'M11 2a9 9 0 1 1 0 18a9 9 0 0 1 0-18z' },
  insect: { letter: 'I', path: 'M7 2h8l5 9-5 9H7l-5-9z' },
  heat: { letter: 'H', path: 'M11 1l10 10-10 10L1 11z' },
  drought: { letter: 'R', path: 'M1.500 3h19L11 21z' },
  cold: { letter: 'C', path: 'M11 1l8.500 4.800v10.400L11 21l-8.500-4.800V5.800z' },
  nutrient: { letter: 'N', path: 'M11 1.500l10 7.300-3.800 11.700H4.800L1 8.800z' },
  'water-excess': { letter: 'W', path: 'M11 1c4 5.500 8 8.500 8 12.500a8 7.500 0 0 1-16 0C3 9.500 7 6.500 11 1z' },
  'site-and-care': { letter: 'S', path: 'M3 3h16v16H3z' },
  'look-alike': { letter: 'L', path: 'M2 6h18v10H2z' },
}

export const familyLabels: Record<string, string> = {
  disease: 'Disease',
  insect: 'Insect',
  heat: 'Heat',
  drought: 'Drought',
  cold: 'Cold',
  nutrient: 'Nutrient',
  'water-excess': 'Too wet',
  'site-and-care': 'Site and care',
  'look-alike': 'Look-alike',
}

export function FamilyMark({ family }: { family: string }) {
  const m = marks[family] ?? { letter: '?', path: 'M2 2h18v18H2z' }
  return (
    <svg
      className="family"
      data-family={family}
      viewBox="0 0 22 22"
      width="26"
      height="26"
      role="img"
      aria-label={familyLabels[family] ?? family}
    >
      <path d={m.path} />
      <text x="11" y={family === 'drought' ? 12.5 : family === 'water-excess' ? 17 : 15.2} textAnchor="middle">
        {m.letter}
      </text>
    </svg>
  )
}
