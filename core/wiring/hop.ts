/** The hops of a signal path, as the signal runs. */
export const hopKinds = ['element', 'leads', 'input', 'conversion', 'adjustment', 'record'] as const;
export type HopKind = (typeof hopKinds)[number];
