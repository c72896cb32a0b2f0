/** What is said when so many drafts have come to the tray. */
export function trayWords(count: number): string {
  return count === 1 ? "1 draft waits in the tray." : `${count} drafts wait in the tray.`;
}
