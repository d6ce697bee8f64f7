/** What belongs on screen and on paper where work can hurt someone. */
export const CAUTIONS: readonly string[] = [
  'Keep hands, hair and sleeves from the moving frame and needle; stop the machine before reaching in, before trimming applique in the hoop and before changing a needle.',
  'Check that the design clears the hoop before starting. A needle that hits the frame breaks and flies: wear eye protection.',
  "Heed the machine maker's instructions, local safety rules and those trained to service it.",
  'Stiff backs and small sewn-on parts do not belong against a small child’s skin or where they can come off; flame and children’s-wear rules are yours to check.',
  'All predictions here are estimates: sew a sample on the real cloth before the run.',
];
