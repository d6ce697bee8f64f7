type Call = readonly [name: string, ...args: number[]];

/** A drawing context that notes what is called on it, with the style in force, and draws nothing. */
export class NotingContext {
  readonly calls: Call[] = [];
  readonly strokes: { style: string; width: number; lines: number }[] = [];
  readonly images: unknown[][] = [];
  canvas = { width: 400, height: 300 };
  strokeStyle = '';
  fillStyle = '';
  lineWidth = 1;
  globalAlpha = 1;
  private lines = 0;

  beginPath(): void {
    this.lines = 0;
    this.note('beginPath');
  }
  stroke(): void {
    this.strokes.push({ style: this.strokeStyle, width: this.lineWidth, lines: this.lines });
  }
  lineTo(x: number, y: number): void {
    this.lines++;
    this.note('lineTo', x, y);
  }
  drawImage(...args: unknown[]): void {
    this.images.push(args);
  }
  moveTo = (x: number, y: number): void => this.note('moveTo', x, y);
  arc = (x: number, y: number, r: number): void => this.note('arc', x, y, r);
  rect = (x: number, y: number, w: number, h: number): void => this.note('rect', x, y, w, h);
  fillRect = (x: number, y: number, w: number, h: number): void => this.note(`fillRect ${this.fillStyle}`, x, y, w, h);
  strokeRect = (x: number, y: number, w: number, h: number): void => this.note('strokeRect', x, y, w, h);
  fillText = (text: string, x: number, y: number): void => this.note(`text ${text}`, x, y);
  fill = (): void => this.note('fill');
  clip = (): void => this.note('clip');
  save = (): void => this.note('save');
  restore = (): void => this.note('restore');
  setLineDash = (): void => this.note('setLineDash');

  count(name: string): number {
    return this.calls.filter(([n]) => n === name).length;
  }
  private note(name: string, ...args: number[]): void {
    this.calls.push([name, ...args]);
  }
}
