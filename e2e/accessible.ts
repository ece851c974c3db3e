import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

type Impact = 'minor' | 'moderate' | 'serious' | 'critical';

/**
 * Nothing on the page stands in the way of a person who reads or works it by other means. What is found has to
 * stay: a button that is just becoming ready has half-way colours for a quarter of a second.
 *
 * @param rules only these; otherwise all
 * @param weighs findings of these weights
 */
export async function expectAccessible(
  page: Page,
  name: string,
  { rules, weighs = ['serious', 'critical'] }: { rules?: string[]; weighs?: readonly Impact[] } = {},
): Promise<void> {
  // Only violations are read: what passes need not be written up. No page here holds frames of another origin,
  // so the findings need not be gathered in a page of their own, which takes longer than the finding.
  const axe = new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'], ...(rules && { runOnly: rules }) });
  const found = async () =>
    (await axe.analyze()).violations
      .filter((v) => v.impact && weighs.includes(v.impact))
      .map((v) => `${name}: ${v.id} ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`);
  // A look that has begun is waited for: on a long list, beside other journeys, it alone may take ten seconds.
  const until = Date.now() + 10_000;
  let last = await found();
  while (last.length > 0 && Date.now() < until) last = await found();
  expect(last).toEqual([]);
}
