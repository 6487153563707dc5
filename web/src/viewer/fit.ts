import told from "../../../src/Froe.Core/Overlays/fits.json";

const numbersOf = (table: Readonly<Record<string, readonly number[]>>, name: string | number) => table[name];

/** Upper limit deviation of a tight hole, in micrometres: that of the shaft with the step between two grades taken back. */
function highestOf(letters: string, grade: number, band: number, shaft: number, width: number): number | null {
  if (grade < 6 || ((letters === "K" || letters === "M") && grade > 8)) return null;
  if (letters === "N" && grade > 8) return band === 0 ? -shaft : 0;
  // The one that the table gives otherwise.
  if (letters === "M" && grade === 6 && band === 10) return -9;
  const hasStep = band > 0 && grade <= (letters === "P" ? 7 : 8);
  return -shaft + (hasStep ? width - numbersOf(told.grades, grade - 1)![band]! : 0);
}

/**
 * How far a size may lie below and above what it is called by its class, such as H7 (ISO 286-1), in millimetres; null for what is not known. The server reckons the
 * same (tests/cases/measures.json).
 * @param size in millimetres
 */
export function limitsOf(size: number, letters: string, grade: number): { lower: number; upper: number } | null {
  const band = told.sizes.findIndex((most) => size <= most);
  const width = numbersOf(told.grades, grade)?.[band];
  if (!(size > 0) || band < 0 || width === undefined) return null;
  const upwards = (from: number) => ({ lower: from / 1000, upper: (from + width) / 1000 });
  const downwards = (from: number) => ({ lower: (from - width) / 1000, upper: from / 1000 });
  const small = letters.toLowerCase();
  if (letters === "js" || letters === "JS") return { lower: -width / 2000, upper: width / 2000 };
  const [loose, tight] = [numbersOf(told.clearance, small)?.[band], numbersOf(told.interference, small)?.[band]];
  if (loose !== undefined) return letters === small ? downwards(-loose) : upwards(loose);
  if (tight === undefined) return null;
  if (letters === small) return upwards(letters === "k" && grade > 7 ? 0 : tight);
  const highest = highestOf(letters, grade, band, tight, width);
  return highest === null ? null : downwards(highest);
}
