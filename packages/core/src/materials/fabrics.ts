import type { ClothLook, Fabric } from '../model/target.ts';

/** The cloths a shop starts with. Values from memory of handbooks; the shop edits them. */
export const FABRICS: readonly Fabric[] = [
  cloth('poplin', 'poplin shirting', 120, 2, 0, 0.42, 0.4, 0.15, 2.2, 'tear-away 1', '', 'plain', '#dfe3e2'),
  cloth('twill', 'twill workwear', 245, 2, 0, 0.4, 0.38, 0.17, 3.0, 'tear-away 1', '', 'twill', '#39424d'),
  cloth('denim', 'denim', 400, 3, 0, 0.4, 0.38, 0.15, 3.2, 'tear-away 1', '', 'twill', '#2c3e5a'),
  cloth('canvas', 'canvas tote', 340, 1, 0, 0.4, 0.38, 0.15, 3.2, 'tear-away 1', '', 'canvas', '#d9cfb8'),
  cloth('pique-polo', 'pique polo', 210, 18, 0.3, 0.4, 0.38, 0.28, 2.4, 'cut-away 1', 'film', 'pique', '#24405c'),
  cloth('jersey', 'single jersey T-shirt', 160, 35, 0, 0.45, 0.42, 0.32, 1.9, 'cut-away 1', '', 'knit', '#c9ced0'),
  cloth('rib-knit', 'rib or waffle knit', 230, 60, 0.8, 0.42, 0.4, 0.42, 1.8, 'cut-away 2', 'film', 'rib', '#5d4a50'),
  cloth('sweater-knit', 'loose sweater knit', 280, 80, 1.5, 0.42, 0.4, 0.48, 1.6, 'cut-away 2', 'film', 'rib', '#7c6f5c'),
  cloth('fleece', 'brushed fleece', 280, 30, 2.0, 0.4, 0.38, 0.38, 2.2, 'cut-away 1', 'film', 'brushed', '#3d5a52'),
  cloth('terry', 'terry', 450, 12, 3.5, 0.4, 0.36, 0.38, 2.4, 'wash-away 1', 'film', 'loops', '#e7e1d3'),
  cloth('softshell', 'softshell', 300, 15, 0, 0.42, 0.4, 0.22, 2.2, 'cut-away 1', '', 'smooth', '#2b3036'),
  cloth('nylon-shell', 'nylon shell', 90, 2, 0, 0.45, 0.42, 0.18, 1.7, 'cut-away 1', '', 'smooth', '#7a3b33', 1.5),
  cloth('silk-satin', 'silk satin', 80, 2, 0, 0.45, 0.42, 0.16, 1.6, 'cut-away 1', '', 'smooth', '#cdb9a6'),
  cloth('organza', 'organza', 40, 1, 0, 0.6, 0.5, 0.12, 1.1, 'wash-away 1', '', 'sheer', '#e9e4ea'),
  cloth('felt', 'felt', 300, 8, 0.4, 0.4, 0.38, 0.2, 3.0, 'tear-away 1', '', 'felt', '#8a9a7b'),
  cloth('leather', 'leather', 700, 8, 0, 0.5, 0.48, 0.1, 1.6, 'tear-away 1', '', 'leather', '#6b4a33', 1.8),
  cloth('cap-front', 'structured cap front', 260, 4, 0, 0.4, 0.38, 0.25, 2.6, 'cap backing 2', '', 'twill', '#4a5340'),
];

function cloth(
  id: string,
  name: string,
  mass: number,
  stretch: number,
  pile: number,
  fillSpacing: number,
  satinSpacing: number,
  pull: number,
  maxCover: number,
  stabilizer: string,
  topping: string,
  look: ClothLook,
  color: string,
  tearsUnder?: number,
): Fabric {
  const tears = tearsUnder === undefined ? {} : { tearsUnder };
  return { id, name, mass, stretch, pile, fillSpacing, satinSpacing, pull, maxCover, stabilizer, topping, look, ...tears, color };
}
