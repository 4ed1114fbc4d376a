import { type Format } from '../formats/format.ts';
import { type Triple } from '../numeric/vectors.ts';
import { adviceFor, type Advice } from './advice.ts';
import { type Destination } from './destination.ts';
import { differenceAt, worstPlace } from './difference.ts';
import { receive, type Sent } from './receive.ts';

/** What comes of a delivery. */
export interface DeliveryReport {
  /** why nothing arrives; nothing where it does */
  refused?: string;
  losses: string[];
  /** mm that what arrives lies off what was sent, at most; nothing where nothing arrives */
  difference?: number;
  /** where it lies off the most */
  worst?: { at: Triple; off: number };
  advice: Advice[];
}

/** Sends a part, looks at what arrives, and says what would bring it nearer. @param tell gets how far it is, 0 to 1 */
export function deliveryReport(sent: Sent, format: Format, to: Destination, tell: (fraction: number) => void = () => undefined): DeliveryReport {
  const received = receive(sent, to, format);
  const difference = differenceAt(sent, received);
  return {
    refused: received.refused,
    losses: received.losses,
    difference,
    worst: difference ? worstPlace(sent, received) : undefined,
    advice: adviceFor(sent, format, to, tell, difference)
  };
}
