/**
 * Runs whenever the theme may have changed: by a choice in the application, or by the device going over to dark. A canvas
 * knows no tokens, and has to be drawn again.
 *
 * @returns what ends it
 */
export function onThemeChange(run: () => void): () => void {
  const chosen = new MutationObserver(run);
  chosen.observe(document.documentElement, { attributes: true });
  const device = window.matchMedia('(prefers-color-scheme: dark)');
  device.addEventListener('change', run);
  return () => {
    chosen.disconnect();
    device.removeEventListener('change', run);
  };
}
