import {
  countNodes,
  defaultTarget,
  type Design,
  drawShapes,
  fitNodes,
  moveNodes,
  nodesOf,
  ProgramBuilder,
  readShapeAsk,
  sewSpecs,
  readObjectSpec,
  shapeOfNodes,
  startDesign,
} from '@isola/core';
import { iconShape } from './generators/icons.ts';

const AGAIN = 15;
const best = (act: () => unknown): string => {
  let least = Infinity;
  for (let k = 0; k < AGAIN; k++) {
    const start = performance.now();
    act();
    least = Math.min(least, performance.now() - start);
  }
  return least.toFixed(1);
};

/** An outline of so many points: a round shape with waves in its edge. */
function wavy(points: number, radius: number): Float64Array {
  return Float64Array.from({ length: points * 2 }, (_, k) => {
    const angle = (2 * Math.PI * (k >> 1)) / points;
    const reach = radius * (1 + 0.15 * Math.sin(5 * angle) + 0.06 * Math.sin(11 * angle));
    return reach * (k % 2 === 0 ? Math.cos(angle) : Math.sin(angle));
  });
}

const outline = wavy(2000, 30);
const icon = iconShape('mdiBird', 3)[0]!;
console.table([
  {
    'nodes fitted to': 'an outline of 2,000 points',
    points: 2000,
    nodes: countNodes(fitNodes(outline, true)),
    'best ms': best(() => fitNodes(outline, true)),
    'target ms': 20,
  },
  {
    'nodes fitted to': 'an icon',
    points: icon.length / 2,
    nodes: countNodes(fitNodes(icon, true)),
    'best ms': best(() => fitNodes(icon, true)),
    'target ms': 20,
  },
]);

let ids = 0;
/** A design of one fill of about so many stitches. */
function fillOf(radius: number): { design: Design; id: string } {
  const asked = readShapeAsk('draw', { form: 'closed', lines: [[...fitNodes(wavy(400, radius), true)]], kind: 'fill' });
  if (!asked.ok) throw new Error(asked.error);
  const drawn = drawShapes(startDesign(new ProgramBuilder().end().build(), defaultTarget()), asked.value, () => `made-${++ids}`);
  if (!drawn.ok) throw new Error(drawn.error);
  return { design: drawn.value.design, id: drawn.value.made[0]! };
}

console.table(
  [20, 33, 60].map((radius) => {
    const { design, id } = fillOf(radius);
    const [nodes, spec] = [nodesOf(design, id), readObjectSpec(design, id)];
    if (!nodes.ok || !spec.ok) throw new Error('the fill has no nodes');
    let by = 0;
    return {
      'a node dragged, stitches': design.program.rowCount,
      nodes: countNodes(nodes.value.lines[0]!),
      'sewn, best ms': best(() => {
        by += 0.1;
        const shape = shapeOfNodes({ ...nodes.value, lines: [moveNodes(nodes.value.lines[0]!, [0], by, 0)] });
        if (!shape.ok) throw new Error(shape.error);
        return sewSpecs(design, [{ object: id, spec: spec.value, shape: shape.value }]);
      }),
      'target ms': 50,
    };
  }),
);
