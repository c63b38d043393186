// What every page has: the sheet of shortcuts, and the keys that lead from workspace to workspace.

export const shell = () => ({
  init() {
    document.addEventListener("keydown", (event) => {
      const typing = event.target.closest("input, textarea, select, [contenteditable=true]");
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "?") this.openSheet();
      const links = document.querySelectorAll(".workspaces a");
      if (/^[0-9]$/.test(event.key)) links[Number(event.key)]?.click();
    });
  },
  openSheet() {
    this.$refs.sheet.showModal();
  },
});
