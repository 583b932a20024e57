/** Typesets the papers of the question bench into a folder, each with its truth beside it as JSON. */
import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, writeFileSync, existsSync } from 'node:fs'
import { join } from 'node:path'
import puppeteer from 'puppeteer-core'
import { asHtml } from './html'
import { asLatex } from './latex'
import { asRoff } from './roff'
import { makePaper, type Paper } from './spec'

export interface Truth {
  file: string
  maker: string
  paper: Paper
}

const has = (command: string) => spawnSync('sh', ['-c', `command -v ${command}`]).status === 0

/** Which makers are on this machine; the browser and groff always are in the bench. */
export const makers = () => ['chromium', 'weasyprint', 'groff', 'pdflatex'].filter(has)

/** @param seeds one paper each; @param turn makers, who take turns @returns the truths, with paths of the PDFs */
export async function makePapers(folder: string, seeds: readonly number[], turn = makers()): Promise<Truth[]> {
  mkdirSync(folder, { recursive: true })
  const browser = await puppeteer.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  })
  const truths: Truth[] = []
  try {
    for (const seed of seeds) {
      const paper = makePaper(seed),
        maker = turn[Math.floor(seed / 2) % turn.length]!
      const base = join(folder, `${String(seed).padStart(3, '0')}-${maker}`),
        file = `${base}.pdf`
      // Two columns and drill grids are the browser's and LaTeX's work; groff sets one column.
      if (maker === 'groff') Object.assign(paper, { columns: 1, drill: 0, sheet: false })
      if (maker === 'pdflatex') Object.assign(paper, { drill: 0, sheet: false })
      if (maker === 'weasyprint' && paper.ticks) paper.optionsLayout = 'down'
      truths.push({ file, maker, paper })
      writeFileSync(`${base}.json`, JSON.stringify(paper, null, 1))
      if (existsSync(file)) continue
      if (maker === 'chromium') {
        const page = await browser.newPage()
        await page.setContent(asHtml(paper))
        writeFileSync(file, await page.pdf({ preferCSSPageSize: true }))
        await page.close()
      } else typeset(maker, paper, base)
    }
  } finally {
    await browser.close()
  }
  return truths
}

function typeset(maker: string, paper: Paper, base: string) {
  const run = (command: string, args: string[], input?: string) => {
    const done = spawnSync(command, args, { input, maxBuffer: 50_000_000 })
    if (done.status !== 0)
      throw new Error(
        `${command} failed on ${base}: ${done.stderr.toString().slice(-400)}${done.stdout.toString().slice(-400)}`,
      )
    return done.stdout
  }
  if (maker === 'weasyprint') {
    writeFileSync(`${base}.html`, asHtml(paper))
    run('weasyprint', ['-q', `${base}.html`, `${base}.pdf`])
  } else if (maker === 'groff') writeFileSync(`${base}.pdf`, run('groff', ['-Tpdf', '-K', 'utf8'], asRoff(paper)))
  else {
    writeFileSync(`${base}.tex`, asLatex(paper))
    run('pdflatex', [
      '-interaction=batchmode',
      '-halt-on-error',
      `-output-directory=${join(base, '..')}`,
      `${base}.tex`,
    ])
  }
  readFileSync(`${base}.pdf`)
}
