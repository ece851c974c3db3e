import { describeChannel, type QuantityCode } from '@/core/quantity/quantity';

/** A row of the view named_channel, as far as the name goes. */
export interface NamedChannel {
  readonly description: string | null;
  readonly zoneName: string;
  readonly quantity: QuantityCode;
}

/** What a channel is called: as its device says, or by zone and quantity. */
export const channelName = ({ description, zoneName, quantity }: NamedChannel): string =>
  description ?? describeChannel(zoneName, quantity);

/** SQL: the columns channelName() needs of a named_channel. */
export const namedColumns = (alias: string): string =>
  `${alias}.description, ${alias}.zone_name as "zoneName", ${alias}.quantity`;
