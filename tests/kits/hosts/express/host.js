// An application of ten lines in which the kit is set. It answers the addresses that it reads.
const express = require("express");
const nunjucks = require("nunjucks");
const siteNavigation = require("./site-navigation");

const asked = JSON.parse(require("node:fs").readFileSync(0, "utf8"));
const app = express();
const env = nunjucks.configure("views", { express: app });
if (asked.serve) {
  const policy = "default-src 'self'; script-src 'self'; style-src 'self'; object-src 'none'; base-uri 'none'";
  app.use((req, res, next) => next(res.set("Content-Security-Policy", policy) && undefined));
}
const navigation = siteNavigation({ mount: asked.mount, env, base: asked.own_base ? "base.html" : undefined });
app.use(navigation);
app.get("/api/words", (req, res) => res.json({ words: 7 }));
app.get("/about-host", (req, res) => res.render("shop.html", { words: "<Host>" }));
for (const [id, route] of navigation.routes) {
  if (route.backend) {
    const values = { words: "<b>", title: asked.title ?? undefined };
    app.get(navigation.rule(id), (req, res) => navigation.renderInSite(req, res, id, "shop.html", values));
  }
}
app.use((req, res) => res.status(404).send("The host has nothing there."));

const server = app.listen(0, "127.0.0.1", async () => {
  if (asked.serve) {
    return console.log(server.address().port);
  }
  const answers = [];
  for (const address of asked.addresses) {
    const answer = await fetch(`http://127.0.0.1:${server.address().port}${address}`, { redirect: "manual" });
    const body = Buffer.from(await answer.arrayBuffer()).toString("latin1");
    answers.push([answer.status, Object.fromEntries(answer.headers), body]);
  }
  const problems = asked.own_base ? await navigation.problems(app) : [];
  server.close();
  process.stdout.write(JSON.stringify({ answers, problems }));
});
