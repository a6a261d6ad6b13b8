import { AxeBuilder } from '@axe-core/playwright'
import type { Page } from 'playwright-core'

/** What keeps people from using a page, as far as a program can tell (WCAG 2.2 A and AA). @returns one line for each fault */
export async function accessFaults(page: Page): Promise<readonly string[]> {
  const { violations } = await new AxeBuilder({ page: page as never })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze()
  return violations.flatMap((fault) =>
    fault.nodes.map((node) => `${fault.id}: ${node.target.join(' ')} (${node.failureSummary?.split('\n')[1]?.trim() ?? ''})`),
  )
}
