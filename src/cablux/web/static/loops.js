// The loops of a whole piece: where each lies, and which is under a finger.

const REACH = 1.2; // stitches: further away nothing is meant

/** The loops of a piece, as the server writes them: places in stitches, heights in stitches of the row below. */
export class Loops {
  /** @param {ArrayBuffer} buffer */
  constructor(buffer) {
    const view = new DataView(buffer);
    this.rows = view.getUint32(4, true);
    this.count = view.getUint32(8, true);
    this.rowHeight = view.getFloat32(12, true);
    let at = 16;
    /**
     * @template {Uint32Array | Float32Array | Int16Array | Int8Array | Uint8Array} Numbers
     * @param {{new (buffer: ArrayBuffer): Numbers, BYTES_PER_ELEMENT: number}} Type
     * @param {number} n
     */
    const take = (Type, n) => {
      const size = n * Type.BYTES_PER_ELEMENT;
      const part = new Type(buffer.slice(at, at + size));
      at += size;
      return part;
    };
    const counts = take(Uint32Array, this.rows);
    this.levels = take(Float32Array, this.rows);
    this.x = Float32Array.from(take(Int16Array, this.count), (v) => v / 16);
    this.y = Float32Array.from(take(Int16Array, this.count), (v) => v / 256);
    this.lean = take(Int8Array, this.count);
    this.stands = take(Int8Array, this.count);
    this.tone = take(Uint8Array, this.count);
    this.kind = take(Uint8Array, this.count);
    this.segment = take(Uint8Array, this.count);
    this.start = new Uint32Array(this.rows + 1);
    for (let r = 0; r < this.rows; r++) this.start[r + 1] = this.start[r] + counts[r];
    this.left = Infinity;
    this.right = -Infinity;
    for (let r = 0; r < this.rows; r++) {
      for (let i = this.start[r]; i < this.start[r + 1]; i++) {
        this.y[i] += this.levels[r];
        if (this.x[i] < this.left) this.left = this.x[i];
        if (this.x[i] > this.right) this.right = this.x[i];
      }
    }
    this.top = this.levels[this.rows - 1];
  }

  /**
   * The rows whose level lies between two heights, with some to spare for waves.
   * @param {number} low
   * @param {number} high
   * @returns {[number, number]} the first of them, and the one behind the last
   */
  between(low, high) {
    const spare = 3 + 2 * this.rowHeight;
    let a = 0;
    while (a < this.rows && this.levels[a] < low - spare) a++;
    let b = a;
    while (b < this.rows && this.levels[b] <= high + spare) b++;
    return [a, b];
  }

  /**
   * The loop that lies nearest to a point, within reach; what stands out is nearer to the eye.
   * @param {number} x
   * @param {number} y
   * @param {number} upto the last row that is shown
   * @returns {{loop: number, row: number, place: number} | null}
   */
  nearest(x, y, upto) {
    const [a, b] = this.between(y, y);
    let best = -1;
    let near = REACH;
    let row = 0;
    for (let r = a; r < Math.min(b, upto + 1); r++) {
      for (let i = this.start[r]; i < this.start[r + 1]; i++) {
        const away = Math.hypot(this.x[i] - x, this.y[i] - y) - this.stands[i] / 400;
        if (away < near) [best, near, row] = [i, away, r];
      }
    }
    return best < 0 ? null : { loop: best, row, place: best - this.start[row] };
  }
}
