/** A ref for a foot that stays at the window's bottom: it tells its height, so that messages stand above it and not over it. */
export function standingFoot(foot: HTMLElement | null) {
  if (!foot) return;
  const page = document.documentElement;
  const watch = new ResizeObserver(() => page.style.setProperty("--foot", `${foot.offsetHeight}px`));
  watch.observe(foot);
  return () => {
    watch.disconnect();
    page.style.removeProperty("--foot");
  };
}
