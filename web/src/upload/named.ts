/**
 * A file under its name as keyboards give it: some systems write a letter and its mark as two, and by that the same number would be
 * another one, and no search would find its title.
 */
export function named(file: File): File {
  const name = file.name.normalize();
  if (name === file.name) return file;
  const fromPath = pathOf(file);
  return Object.assign(new File([file], name, { type: file.type, lastModified: file.lastModified }), { fromPath });
}

/** The path of a file within the folder that was dropped or chosen; empty for one that came by itself. */
export const pathOf = (file: File): string =>
  ((file as File & { fromPath?: string }).fromPath ?? file.webkitRelativePath ?? "").normalize();
