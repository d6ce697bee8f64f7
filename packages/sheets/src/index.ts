export { type PlacedPicture, productionPdf } from './productionPdf.ts';
export { Sheet } from './Sheet.ts';
