// What a component adds: how many links there are is told where somebody asks for it.
customElements.define(
  "site-menu",
  class extends HTMLElement {
    connectedCallback() {
      this.dataset.links = String(this.querySelectorAll("a").length);
    }
  },
);
