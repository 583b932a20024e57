import type { ReferenceSheet } from './model'

const SOURCE = 'school mathematics and mechanics, common knowledge'

export const FORMULAS: ReferenceSheet = {
  id: 'formulas', title: 'Formulas',
  sections: [
    { id: 'algebra', title: 'Algebra', source: SOURCE, head: ['', ''], rows: [
      ['square of a sum', '(a + b)² = a² + 2ab + b²'], ['square of a difference', '(a − b)² = a² − 2ab + b²'], ['difference of squares', 'a² − b² = (a + b)(a − b)'], ['quadratic equation', 'ax² + bx + c = 0:  x = (−b ± √(b² − 4ac)) / 2a'], ['straight line', 'y = mx + b,  m = (y₂ − y₁)/(x₂ − x₁)'], ['powers', 'aᵐ·aⁿ = aᵐ⁺ⁿ,  (aᵐ)ⁿ = aᵐⁿ,  a⁻ⁿ = 1/aⁿ'], ['roots', '√(ab) = √a·√b,  √(a/b) = √a/√b'], ['logarithms', 'log(xy) = log x + log y,  log xⁿ = n·log x'], ['arithmetic sequence', 'aₙ = a₁ + (n − 1)d,  Sₙ = n(a₁ + aₙ)/2'], ['geometric sequence', 'aₙ = a₁·qⁿ⁻¹,  Sₙ = a₁(qⁿ − 1)/(q − 1)'], ['compound interest', 'K = K₀·(1 + p)ⁿ'], ['mean', 'x̄ = (x₁ + x₂ + … + xₙ)/n'],
    ] },
    { id: 'geometry', title: 'Geometry', source: SOURCE, head: ['', ''], rows: [
      ['rectangle', 'A = a·b,  P = 2(a + b)'], ['triangle', 'A = g·h/2,  α + β + γ = 180°'], ['parallelogram', 'A = g·h'], ['trapezium', 'A = (a + c)·h/2'], ['circle', 'A = πr²,  C = 2πr'], ['sector', 'A = πr²·α/360°,  arc = 2πr·α/360°'], ['Pythagoras', 'a² + b² = c²'], ['sine, cosine, tangent', 'sin α = a/c,  cos α = b/c,  tan α = a/b'], ['law of sines', 'a/sin α = b/sin β = c/sin γ'], ['law of cosines', 'c² = a² + b² − 2ab·cos γ'], ['polygon', 'sum of angles = (n − 2)·180°'], ['prism, cylinder', 'V = G·h'], ['pyramid, cone', 'V = G·h/3'], ['sphere', 'V = 4πr³/3,  S = 4πr²'], ['distance', 'd = √((x₂ − x₁)² + (y₂ − y₁)²)'],
    ] },
    { id: 'mechanics', title: 'Mechanics', source: SOURCE, head: ['', ''], rows: [
      ['speed', 'v = s/t'], ['acceleration', 'a = Δv/Δt'], ['uniform acceleration', 's = v₀t + at²/2,  v² = v₀² + 2as'], ['force', 'F = m·a'], ['weight', 'G = m·g,  g ≈ 9.81 m/s²'], ['friction', 'R = µ·N'], ['spring', 'F = D·s'], ['density', 'ρ = m/V'], ['pressure', 'p = F/A'], ['pressure in a liquid', 'p = ρ·g·h'], ['buoyancy', 'A = ρ·g·V'], ['work', 'W = F·s'], ['kinetic energy', 'E = mv²/2'], ['height energy', 'E = m·g·h'], ['power', 'P = W/t = F·v'], ['momentum', 'p = m·v'], ['lever', 'F₁·l₁ = F₂·l₂'], ['gas law', 'p·V = n·R·T'],
    ] },
  ],
}
