import type { Care, WornPart } from '@/core/kit/care';
import type { Certificate } from '@/core/kit/certificate';
import type { QuantityCode } from '@/core/quantity/quantity';
import { finite, name, quantity } from './pieces';
import { listOf, must, orNull, shape, text } from './shape';

/** What a certificate says of one quantity of an instrument. */
export interface CertifiedQuantity extends Certificate {
  readonly quantity: QuantityCode;
}
export const certifiedQuantity = shape<CertifiedQuantity>({
  quantity: must(quantity),
  points: must(
    listOf(shape<Certificate['points'][number]>({ shown: must(finite()), correction: must(finite()) }), (a) =>
      a.min(1).max(20),
    ),
  ),
  uncertainty: must(finite((n) => n.greater(0))),
  drift: must(finite((n) => n.min(0))),
});

/** What a handheld wants of whoever carries it. */
export const care = shape<Care>({
  switchesOffAfter: must(orNull(finite((n) => n.min(10).max(86_400)))),
  preparation: must(listOf(name(200), (a) => a.max(12))),
  parts: must(
    listOf(
      shape<WornPart>({
        name: must(name(60)),
        renewedOn: must(text((s) => s.pattern(/^\d{4}-\d\d-\d\d$/, 'day'))),
        goodFor: must(finite((n) => n.min(1).max(3660))),
      }),
      (a) => a.max(8),
    ),
  ),
  responses: must(
    listOf(
      shape<Care['responses'][number]>({
        quantity: must(quantity),
        seconds: must(finite((n) => n.greater(0).max(3600))),
      }),
      (a) => a.max(12),
    ),
  ),
});

/** What two instruments showed side by side, base unit. */
export const comparedPair = shape<{ readonly one: number; readonly other: number }>({
  one: must(finite()),
  other: must(finite()),
});
