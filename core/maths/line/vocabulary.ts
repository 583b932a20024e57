/** Names that are maths where they stand in a line, and what LaTeX calls them. */
const GREEK =
  'alpha beta gamma delta epsilon zeta eta theta iota kappa lambda mu nu xi pi rho sigma tau upsilon phi chi psi omega Gamma Delta Theta Lambda Xi Pi Sigma Phi Psi Omega'

/** Greek letters by name and as they are, as LaTeX. */
export const GREEK_NAMES: ReadonlyMap<string, string> = new Map(
  GREEK.split(' ').map(n => [n, n === 'epsilon' ? '\\varepsilon' : n === 'phi' ? '\\varphi' : `\\${n}`]),
)
const GREEK_SIGNS = 'αβγδεζηθικλμνξπρστυφχψωΓΔΘΛΞΠΣΦΨΩ'
/** Greek letters as they are, as LaTeX. */
export const GREEK_LETTERS: ReadonlyMap<string, string> = new Map(
  [...GREEK_SIGNS].map((sign, i) => [sign, GREEK_NAMES.get(GREEK.split(' ')[i]!)!]),
)

/** Functions that are set upright, with what follows as their argument. */
export const FUNCTIONS: ReadonlySet<string> = new Set(
  'sin cos tan cot sec csc sinh cosh tanh arcsin arccos arctan log ln lg exp lim det gcd lcm max min'.split(' '),
)
/** Functions that LaTeX has no command for. */
export const OPERATOR_NAMES: ReadonlySet<string> = new Set(['lcm'])

/** What stands over its argument: over one letter, over several. */
export const ACCENTS: Readonly<Record<string, readonly [string, string]>> = {
  vec: ['\\vec', '\\overrightarrow'],
  hat: ['\\hat', '\\widehat'],
  bar: ['\\bar', '\\overline'],
  dot: ['\\dot', '\\dot'],
  ddot: ['\\ddot', '\\ddot'],
}
/** Signs that take limits. */
export const LARGE_SIGNS: Readonly<Record<string, string>> = {
  'sum': '\\sum',
  'prod': '\\prod',
  'int': '\\int',
  '∑': '\\sum',
  '∏': '\\prod',
  '∫': '\\int',
}
/** Names that take a bracket, or what follows, as their argument. */
export const BUILDERS: ReadonlySet<string> = new Set(['sqrt', 'cbrt', 'root', 'abs', 'floor', 'ceil'])
/** Names that are maths only in front of a bracket, a subscript or a power; elsewhere they are words. */
export const MAYBE_NAMES: ReadonlySet<string> = new Set([
  'sum',
  'prod',
  'max',
  'min',
  'bar',
  'dot',
  'root',
  'exp',
  'hat',
])
/** Named signs. */
export const NAMED_SIGNS: Readonly<Record<string, string>> = { infinity: '\\infty', infty: '\\infty', oo: '\\infty' }

/** Signs of one character, or of several in a row, as LaTeX; the longer ones first. */
export const SIGNS: readonly (readonly [string, string])[] = [
  ['<=>', '\\Leftrightarrow '],
  ['<->', '\\leftrightarrow '],
  ['-->', '\\longrightarrow '],
  ['...', '\\dots '],
  ['<=', '\\le '],
  ['>=', '\\ge '],
  ['=<', '\\le '],
  ['!=', '\\ne '],
  ['=>', '\\Rightarrow '],
  ['->', '\\to '],
  ['+-', '\\pm '],
  ['-+', '\\mp '],
  ['~~', '\\approx '],
  ['~=', '\\approx '],
  ['==', '\\equiv '],
  ['**', '^'],
  ['<', '<'],
  ['>', '>'],
  ['=', '='],
  ['+', '+'],
  ['-', '-'],
  ['−', '-'],
  ['–', '-'],
  ['*', '\\times '],
  ['×', '\\times '],
  ['·', '\\cdot '],
  ['⋅', '\\cdot '],
  ['÷', '\\div '],
  ['±', '\\pm '],
  ['∓', '\\mp '],
  ['≤', '\\le '],
  ['⩽', '\\le '],
  ['≥', '\\ge '],
  ['⩾', '\\ge '],
  ['≠', '\\ne '],
  ['≈', '\\approx '],
  ['≡', '\\equiv '],
  ['≅', '\\cong '],
  ['∝', '\\propto '],
  ['~', '\\sim '],
  ['→', '\\to '],
  ['←', '\\leftarrow '],
  ['↔', '\\leftrightarrow '],
  ['⇒', '\\Rightarrow '],
  ['⇐', '\\Leftarrow '],
  ['⇔', '\\Leftrightarrow '],
  ['⇌', '\\rightleftharpoons '],
  ['∞', '\\infty '],
  ['∴', '\\therefore '],
  ['∵', '\\because '],
  ['∠', '\\angle '],
  ['△', '\\triangle '],
  ['⊥', '\\perp '],
  ['∥', '\\parallel '],
  ['∈', '\\in '],
  ['∉', '\\notin '],
  ['⊂', '\\subset '],
  ['⊆', '\\subseteq '],
  ['∪', '\\cup '],
  ['∩', '\\cap '],
  ['∅', '\\varnothing '],
  ['∀', '\\forall '],
  ['∃', '\\exists '],
  ['∂', '\\partial '],
  ['∇', '\\nabla '],
  ['∘', '\\circ '],
  ['…', '\\dots '],
  ['%', '\\% '],
  ['‰', '‰'],
  ['&', '\\& '],
  ['#', '\\# '],
  ['$', '\\$'],
  ['_', '\\_ '],
  ['\\', '\\backslash '],
]
/** Signs that join what stands on both sides of them, or ask for something behind them. */
export const JOINS =
  /^(?:[<>=+*×·⋅÷±∓≤≥⩽⩾≠≈≡≅∝~→←↔⇒⇐⇔⇌∈∉⊂⊆∪∩∴∵−^_]|-|<=>|<->|-->|<=|>=|=<|!=|=>|->|\+-|-\+|~~|~=|==|\*\*)$/

/** Units of the SI and those used with it (BIPM, The International System of Units, 9th edition, tables 2 to 8), and of daily life. */
const UNIT_BASES = 'm g s A K mol cd Hz N Pa J W C V F Ω T Wb H lm lx Bq Gy Sv L l eV Wh bar rad'
const PLAIN_UNITS = 'min h ha atm ct px ft lb oz yd mph rpm rev ppm amu u deg sr dB kWh kph ohm ohms'
const PREFIXES = ['', ...'YZEPTGMkhcmµμunpf', 'da']
export const UNITS: ReadonlySet<string> = new Set([
  ...UNIT_BASES.split(' ').flatMap(u => PREFIXES.map(p => p + u)),
  'dm',
  'dl',
  'dL',
  'km',
  't',
  ...PLAIN_UNITS.split(' '),
])
/** Units whose sign is a word of its own: only right behind a number, and never before more words of that line. */
export const UNIT_WORDS: ReadonlySet<string> = new Set([
  'h',
  'min',
  'bar',
  'rad',
  'rev',
  'u',
  'deg',
  't',
  'am',
  'as',
  'pm',
  'us',
  'ms',
])

/** Words of one to three letters; what is not here, of two or three letters beside a sign, is a product of letters. */
/** Words that a sentence is put together with; between two signs such letters are a product. */
const JOINING =
  'a an am and any are as at be but by can did do for from get go had has he her him his how i if in is it its let may me my no nor not now of off on or our out per so than the then they this to too up us was we who why you und oder der die das ein ist mit von zu im auf bei aus nach el la los las un una es son con por que de del o se en le les des est et ou du au ne sur il elle par pour si che di da lo e ed ma'
export const GRAMMAR: ReadonlySet<string> = new Set(JOINING.split(' '))
const NOUNS =
  'put see set she sum try two use way yes dp sf cf eg ie wrt one six ten age all area ask bag bed big box boy bus buy car cat cut day dog due each easy eat egg end far few fit fun gap gas hat hot ice job key kg law leg lot low map men mix new next odd oil old own pay pen pie pop ran raw red row run say sea sit sky son sun tax tea tin toy van via war wet win won yet zoo air arm bad ball bar bit car cm dry ear eye fly hit hour ink ion lap lie line lit log man mid near net nut pair part path pet pig pin plus pot rat rod rope rule sad side size step sum term tie time tip top unit pas non nun gli'
export const SHORT_WORDS: ReadonlySet<string> = new Set([...GRAMMAR, ...NOUNS.split(' ')])
/** Capitals that are words. */
export const CAPITAL_WORDS: ReadonlySet<string> = new Set(
  'LCM HCF GCF GCD LCD SAS SSS ASA AAS RHS LHS QED SI UK US EU TV OK ID NB PS AM PM IQ NO OR AND IF SO THE DNA RNA ATP DC AC UV IR CD PC USB NOT IS IT AT ON IN TO OF'.split(
    ' ',
  ),
)
/** Words that come after a letter which is a quantity: "a is 5", "A and B". */
export const AFTER_LETTER: ReadonlySet<string> = new Set(
  'is are and or has was were equals to by from be in of so then when if must can minus plus times squared cubed gives becomes stands'.split(
    ' ',
  ),
)
