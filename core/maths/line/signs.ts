/** A sign of typed lines: how it looks on its key, what is typed for it, and words by which it is found. */
export interface LineSign {
  shown: string
  typed: string
  words: string
}

const SIGNS: readonly (readonly [shown: string, typed: string, words: string])[] = [
  ['√', '√()', 'root square radical sqrt'],
  ['³√', '³√()', 'cube root'],
  ['ⁿ√', 'root()()', 'root index nth'],
  ['x²', '²', 'square squared power two'],
  ['x³', '³', 'cube cubed power three'],
  ['xⁿ', '^()', 'power exponent index raised'],
  ['xₙ', '_()', 'subscript index lowered'],
  ['a/b', '/', 'fraction over divided'],
  ['½', '½', 'half'],
  ['π', 'π', 'pi'],
  ['°', '°', 'degree angle'],
  ['′', "'", 'prime minute feet derivative'],
  ['″', "''", 'second inch double prime'],
  ['±', '±', 'plus minus'],
  ['×', '×', 'times multiplication cross'],
  ['·', '·', 'dot times'],
  ['÷', '÷', 'division divided'],
  ['≤', '≤', 'less or equal at most'],
  ['≥', '≥', 'greater or equal at least'],
  ['≠', '≠', 'not equal'],
  ['≈', '≈', 'approximately about nearly'],
  ['∝', '∝', 'proportional'],
  ['≡', '≡', 'identical congruent equivalent'],
  ['≅', '≅', 'congruent'],
  ['~', '~', 'similar'],
  ['→', '→', 'arrow goes to maps'],
  ['⇒', '⇒', 'implies so'],
  ['⇔', '⇔', 'equivalent if and only if'],
  ['⇌', '<=>', 'equilibrium reversible'],
  ['∞', '∞', 'infinity'],
  ['∴', '∴', 'therefore'],
  ['∵', '∵', 'because'],
  ['∠', '∠', 'angle'],
  ['△', '△', 'triangle'],
  ['⊥', '⊥', 'perpendicular'],
  ['∥', '∥', 'parallel'],
  ['∈', '∈', 'element in'],
  ['∪', '∪', 'union'],
  ['∩', '∩', 'intersection'],
  ['∅', '∅', 'empty set'],
  ['⊂', '⊂', 'subset'],
  ['∑', 'sum_()^()', 'sum sigma'],
  ['∏', 'prod_()^()', 'product'],
  ['∫', 'int_()^()', 'integral'],
  ['lim', 'lim_(x->0)', 'limit'],
  ['d/dx', 'd/dx', 'derivative'],
  ['|x|', 'abs()', 'absolute value modulus'],
  ['a⃗', 'vec()', 'vector arrow'],
  ['x̄', 'bar()', 'mean bar average'],
  ['x̂', 'hat()', 'hat'],
  ['[ ]', '[1, 2; 3, 4]', 'matrix rows'],
  ['(ₙ)', '[3; 4]', 'column vector'],
  ['{', '{x + y = 3; x - y = 1}', 'system simultaneous equations'],
  ['n!', '!', 'factorial'],
  ['%', '%', 'per cent percent'],
  ['α', 'α', 'alpha'],
  ['β', 'β', 'beta'],
  ['γ', 'γ', 'gamma'],
  ['δ', 'δ', 'delta'],
  ['Δ', 'Δ', 'delta change'],
  ['ε', 'ε', 'epsilon'],
  ['θ', 'θ', 'theta angle'],
  ['λ', 'λ', 'lambda wavelength'],
  ['μ', 'μ', 'mu micro'],
  ['ρ', 'ρ', 'rho density resistivity'],
  ['σ', 'σ', 'sigma deviation'],
  ['τ', 'τ', 'tau'],
  ['φ', 'φ', 'phi'],
  ['ω', 'ω', 'omega'],
  ['Ω', 'Ω', 'ohm omega'],
  ['°C', ' °C', 'celsius temperature degree'],
  ['sin', 'sin ', 'sine'],
  ['cos', 'cos ', 'cosine'],
  ['tan', 'tan ', 'tangent'],
  ['log', 'log_()()', 'logarithm'],
  ['ln', 'ln ', 'natural logarithm'],
  ['↓', '↓', 'precipitate down'],
  ['↑', '↑', 'gas up'],
  ['⁺', '^+', 'ion charge positive'],
  ['⁻', '^-', 'ion charge negative'],
  ['¹⁴₆C', '^14_6C', 'isotope nuclide'],
  ['|', ' | ', 'aside note beside'],
  ['"…"', '""', 'words text quotes'],
  ['`…`', '``', 'maths as maths'],
]

/** Every sign that a line can have, found by a word. */
export const LINE_SIGNS: readonly LineSign[] = SIGNS.map(([shown, typed, words]) => ({ shown, typed, words }))

/** The signs that a word means, the nearest first. @example signsFor('root')[0].shown // '√' */
export function signsFor(word: string): LineSign[] {
  const wanted = word.trim().toLowerCase()
  if (!wanted) return []
  const rank = ({ shown, words }: LineSign) =>
    shown === wanted
      ? 0
      : words.split(' ').includes(wanted)
        ? 1
        : words.split(' ').some(w => w.startsWith(wanted))
          ? 2
          : 9
  return LINE_SIGNS.filter(s => rank(s) < 9).sort((a, b) => rank(a) - rank(b))
}
