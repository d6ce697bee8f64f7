import type { PredictedGap } from '@isola/core';

/** What legends may speak of. */
export interface LegendProps {
  /** The cloth's cover limit, K. */
  readonly maxCover: number;
  readonly hasObjects: boolean;
  readonly gaps?: readonly PredictedGap[] | undefined;
}
