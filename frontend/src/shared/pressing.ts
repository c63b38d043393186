// What is pressed is not replaced before it is let go: its click would be on nothing.

let where: EventTarget | null = null;
let release: Promise<void> = Promise.resolve();

addEventListener(
  "pointerdown",
  ({ target }) => {
    where = target;
    release = new Promise((done) => {
      const end = () => {
        removeEventListener("pointerup", end, true);
        removeEventListener("pointercancel", end, true);
        where = null;
        setTimeout(done); // the click comes first
      };
      addEventListener("pointerup", end, true);
      addEventListener("pointercancel", end, true);
    });
  },
  true,
);

/** Once nothing in an element is pressed. */
export async function released(within: Element): Promise<void> {
  if (where instanceof Node && within.contains(where)) await release;
}
