import type { Place } from '@isola/core';

/** What a screen can ask of the cloth that it shows. */
export interface ClothHandle {
  fit(this: void): void;
  zoomBy(this: void, factor: number): void;
}

/** What a screen of objects can ask of the cloth besides. */
export interface ObjectClothHandle extends ClothHandle {
  goToObject(this: void): void;
}

/** What the bench's own cloth can ask of the view that it is made of. */
export interface ClothViewHandle extends ClothHandle {
  zoomTo(this: void, times: number): void;
  goTo(this: void, places: readonly Place[], closest: number): void;
}
