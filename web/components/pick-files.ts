/** Opens the system's chooser of files; nothing comes of it where none is chosen. */
export function pickFiles(then: (files: readonly File[]) => void): void {
  const input = document.createElement('input');
  input.type = 'file';
  input.multiple = true;
  input.onchange = () => {
    const files = [...(input.files ?? [])];
    if (files.length > 0) then(files);
  };
  input.click();
}
