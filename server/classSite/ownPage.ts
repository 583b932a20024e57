import { html, trusted, type Html } from '../../core/publish/html'
import { policyHash } from './http'

/** Why there is nothing at an address of the site. @property opens when there will be, ISO */
export type NothingThere =
  | { why: 'unknown' }
  | { why: 'closed'; opens: string }
  | { why: 'taken-away' }
  | { why: 'fault' }

const STYLE = `
:root { --paper: #fbf9f3; --square: #e6eef6; --sheet: #fffefb; --lead: #2e2c28; --soft: #5f5a50; --ink: #1f3f80; color-scheme: light dark; }
@media (prefers-color-scheme: dark) { :root { --paper: #191a1c; --square: #222830; --sheet: #212326; --lead: #efece3; --soft: #b5b0a4; --ink: #a9c2ea; } }
body { margin: 0; min-height: 100vh; display: grid; place-items: center; color: var(--lead); font: 18px/1.5 system-ui, sans-serif; background-color: var(--paper);
  background-image: linear-gradient(var(--square) 1px, transparent 1px), linear-gradient(90deg, var(--square) 1px, transparent 1px); background-size: 19px 19px; }
main { max-width: 30rem; margin: 1rem; padding: 1.6rem 2rem; background: var(--sheet); border: 2px solid var(--lead); }
h1 { margin: 0 0 0.6rem; font: 600 1.6rem/1.2 "STIX Two Text", "Times New Roman", serif; }
p { margin: 0.4rem 0; }
time { color: var(--ink); font-weight: 700; }
.soft { color: var(--soft); }`

/** Says a moment in the reader's own time. */
const SCRIPT = `for (const t of document.querySelectorAll('time')) t.textContent = new Date(t.dateTime).toLocaleString('en-GB', { dateStyle: 'full', timeStyle: 'short' })`

/** Nothing but the page's own few lines. */
export const OWN_POLICY = `default-src 'none'; img-src data:; style-src '${policyHash(STYLE)}'; script-src '${policyHash(SCRIPT)}'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'`

function wordsOf(nothing: NothingThere): { title: string; words: Html } {
  switch (nothing.why) {
    case 'closed': {
      const said = new Date(nothing.opens).toLocaleString('en-GB', {
        dateStyle: 'full',
        timeStyle: 'short',
        timeZone: 'UTC',
      })
      return {
        title: 'Not open yet',
        words: html`<p>This lesson opens on <time datetime="${nothing.opens}">${said} UTC</time>.</p>
          <p class="soft">The link stays the same: keep it, and come back then.</p>`,
      }
    }
    case 'taken-away':
      return {
        title: 'Taken away',
        words: html`<p>Your teacher has taken this lesson away.</p>
          <p class="soft">It may come back under the same link. Ask in class.</p>`,
      }
    case 'fault':
      return {
        title: 'Something went wrong',
        words: html`<p>This page could not be shown.</p>
          <p class="soft">Load it again in a minute; what you wrote in this browser is still there.</p>`,
      }
    case 'unknown':
      return {
        title: 'Nothing here',
        words: html`<p>No lesson stands at this address.</p>
          <p class="soft">
            A link that was typed may lack a letter: look at it once more, or scan the code on your sheet.
          </p>`,
      }
  }
}

/** What a browser is shown where there is nothing: a page of the site's own, in plain words. */
export function ownPage(nothing: NothingThere): string {
  const { title, words } = wordsOf(nothing)
  const { markup } = html`<html lang="en">
    <head>
      <meta charset="utf-8" />
      <meta
        name="viewport"
        content="width=device-width, initial-scale=1"
      />
      <link
        rel="icon"
        href="data:,"
      />
      <title>${title}</title>
      ${trusted(`<style>${STYLE}</style>`)}
    </head>
    <body>
      <main>
        <h1>${title}</h1>
        ${words}
      </main>
      ${trusted(`<script>${SCRIPT}</script>`)}
    </body>
  </html>`
  return `<!doctype html>\n${markup}`
}
