import type { Place } from './follow'

export const all = <E extends HTMLElement>(within: ParentNode, selector: string) => [
  ...within.querySelectorAll<E>(selector),
]
/** What the page is known to have. */
export const one = <E extends HTMLElement>(within: ParentNode, selector: string) => within.querySelector<E>(selector)!

/** The stretch of lesson time, ms, that an element stands for. */
export const placeOf = ({ dataset }: HTMLElement): Place => ({ from: Number(dataset.t), to: Number(dataset.to) })

/** The section that stood at a place, from "1", when addresses and what is kept were of places; else the one there now. */
export const stoodAt = (sections: readonly HTMLElement[], place: string): HTMLElement | undefined =>
  sections.find(s => s.dataset.places?.split(' ').includes(place)) ?? sections.find(s => s.id === `q${place}`)

/** Puts words into an element only where they are others: laying out takes time from the ink. */
export function put(element: Element, text: string): void {
  if (element.textContent !== text) element.textContent = text
}

export const press = (button: HTMLElement, isOn: boolean): void => button.setAttribute('aria-pressed', String(isOn))
