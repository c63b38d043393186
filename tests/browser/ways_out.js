// What a page of a preview tries, to read, write or leave: functions of `app`, the application's address, and `other`,
// that of another host. What they give back they have read.
({
  staying: {
    "fetch the application": async (app, other) => {
      return (await fetch(app)).text();
    },
    "fetch it without permission": async (app, other) => {
      return (await fetch(app, { mode: "no-cors", credentials: "include" })).type;
    },
    "ask it as pages did before": async (app, other) => {
      const x = new XMLHttpRequest();
      x.open("GET", app, false);
      x.send();
      return x.responseText;
    },
    "read the page around it": async (app, other) => {
      return top.document.body.innerHTML;
    },
    "read the frame's parent": async (app, other) => {
      return parent.document.title;
    },
    "read where the page around it is": async (app, other) => {
      return top.location.href;
    },
    "read what holds it": async (app, other) => {
      return frameElement.outerHTML;
    },
    "read its opener": async (app, other) => {
      return opener.document.title;
    },
    "read cookies": async (app, other) => {
      return document.cookie;
    },
    "keep a cookie": async (app, other) => {
      document.cookie = "a=b";
      return document.cookie;
    },
    "read what browsers keep": async (app, other) => {
      return JSON.stringify(localStorage);
    },
    "read what they keep for a session": async (app, other) => {
      return JSON.stringify(sessionStorage);
    },
    "read a database of the browser": async (app, other) => {
      return await new Promise((y, n) => {
        const r = indexedDB.open("x");
        r.onsuccess = () => y("kept");
        r.onerror = n;
      });
    },
    "read kept answers": async (app, other) => {
      return String(await caches.keys());
    },
    "put the application into a frame": async (app, other) => {
      const f = document.createElement("iframe");
      f.src = app;
      document.body.append(f);
      await new Promise((y) => setTimeout(y, 400));
      return f.contentDocument.body.innerHTML;
    },
    "put it into an object": async (app, other) => {
      const o = document.createElement("object");
      o.data = app;
      document.body.append(o);
      await new Promise((y) => setTimeout(y, 300));
      return o.contentDocument.body.innerHTML;
    },
    "run it as a script": async (app, other) => {
      return await new Promise((y, n) => {
        const s = document.createElement("script");
        s.src = app + "/static/app.js";
        s.onload = () => y("run");
        s.onerror = n;
        document.body.append(s);
      });
    },
    "look at it as a picture": async (app, other) => {
      return await new Promise((y, n) => {
        const i = new Image();
        i.src = app + "/static/icon.svg";
        i.onload = () => y("seen");
        i.onerror = n;
      });
    },
    "listen to it": async (app, other) => {
      return await new Promise((y, n) => {
        const e = new EventSource(app);
        e.onopen = () => y("open");
        e.onerror = n;
      });
    },
    "talk to it": async (app, other) => {
      return await new Promise((y, n) => {
        const w = new WebSocket(app.replace("http", "ws"));
        w.onopen = () => y("open");
        w.onerror = n;
      });
    },
    "change it": async (app, other) => {
      return (
        await fetch(app + "/new", {
          method: "POST",
          mode: "no-cors",
          credentials: "include",
          headers: { "Content-Type": "application/x-www-form-urlencoded" },
          body: "start=blank&name=Evil",
        })
      ).type;
    },
    "put a text into it": async (app, other) => {
      return (
        await fetch(app + "/sites/saltern-reach-tide-mill/map/text", {
          method: "PUT",
          headers: { "Content-Type": "application/json" },
          body: '{"text": "x", "revision": 1}',
        })
      ).text();
    },
    "send it a beacon": async (app, other) => {
      navigator.sendBeacon(app + "/new", new URLSearchParams({ start: "blank", name: "Evil" }));
    },
    "send it a form in a frame": async (app, other) => {
      const f = document.createElement("form");
      f.method = "post";
      f.action = app + "/new";
      f.target = "inner";
      f.innerHTML = "<input name=name value=Evil><input name=start value=blank>";
      document.body.insertAdjacentHTML("beforeend", "<iframe name=inner></iframe>");
      document.body.append(f);
      f.submit();
    },
    "open a window": async (app, other) => {
      return String(Boolean(window.open(app)) || "");
    },
    "open another host": async (app, other) => {
      return String(Boolean(window.open(other)) || "");
    },
    "work in the background": async (app, other) => {
      return await new Promise((y, n) => {
        const w = new Worker(URL.createObjectURL(new Blob([`fetch('${other}')`])));
        w.onerror = n;
        setTimeout(n, 300);
      });
    },
    "work for all pages": async (app, other) => {
      return String((await navigator.serviceWorker.register("/x.js")).scope);
    },
    "fetch another host": async (app, other) => {
      return (await fetch(other, { mode: "no-cors" })).type;
    },
    "send another host a beacon": async (app, other) => {
      navigator.sendBeacon(other, "x");
    },
    "look at a picture elsewhere": async (app, other) => {
      new Image().src = other + "/a.png";
      await new Promise((y) => setTimeout(y, 200));
    },
    "run a script from elsewhere": async (app, other) => {
      const s = document.createElement("script");
      s.src = other + "/a.js";
      document.body.append(s);
      await new Promise((y) => setTimeout(y, 200));
    },
    "load a module from elsewhere": async (app, other) => {
      return String(Object.keys(await import(other + "/m.js")));
    },
    "load a style from elsewhere": async (app, other) => {
      document.head.insertAdjacentHTML(
        "beforeend",
        `<link rel=stylesheet href='${other}/a.css'><style>@import '${other}/b.css'; body { background: url(${other}/c.png) }</style>`,
      );
      await new Promise((y) => setTimeout(y, 200));
    },
    "load a font from elsewhere": async (app, other) => {
      await new FontFace("x", `url(${other}/f.woff2)`).load();
    },
    "hear something from elsewhere": async (app, other) => {
      document.body.insertAdjacentHTML("beforeend", `<video src='${other}/v.mp4' autoplay></video>`);
      await new Promise((y) => setTimeout(y, 200));
    },
    "fetch ahead from elsewhere": async (app, other) => {
      document.head.insertAdjacentHTML("beforeend", `<link rel=prefetch href='${other}/p'>`);
      await new Promise((y) => setTimeout(y, 200));
    },
    "put another host into a frame": async (app, other) => {
      document.body.insertAdjacentHTML("beforeend", `<iframe src='${other}/f'></iframe>`);
      await new Promise((y) => setTimeout(y, 200));
    },
    "talk to another host": async (app, other) => {
      return await new Promise((y, n) => {
        const w = new WebSocket(other.replace("http", "ws"));
        w.onopen = () => y("open");
        w.onerror = n;
      });
    },
    "ask with a dialog": async (app, other) => {
      alert("Your password?");
      return prompt("Password") || "";
    },
    "read the clipboard": async (app, other) => {
      return await navigator.clipboard.readText();
    },
    "hide the browser": async (app, other) => {
      await document.documentElement.requestFullscreen();
      return "whole";
    },
    "say where one is": async (app, other) => {
      return await new Promise((y, n) => navigator.geolocation.getCurrentPosition(() => y("here"), n));
    },
    "save a file": async (app, other) => {
      const a = document.createElement("a");
      a.href = "data:text/plain,x";
      a.download = "x.exe";
      document.body.append(a);
      a.click();
    },
  },
  leaving: {
    "turn the page around it": async (app, other) => {
      top.location = other;
    },
    "turn its parent": async (app, other) => {
      parent.location.href = other;
    },
    "turn it by a link": async (app, other) => {
      const a = document.createElement("a");
      a.href = other;
      a.target = "_top";
      document.body.append(a);
      a.click();
    },
    "turn it by a form": async (app, other) => {
      const f = document.createElement("form");
      f.action = other;
      f.target = "_top";
      document.body.append(f);
      f.submit();
    },
    "turn it by script": async (app, other) => {
      top.location = "javascript:document.title=1";
    },
    "go elsewhere by itself": async (app, other) => {
      location.assign(other);
    },
    "go into the application": async (app, other) => {
      location.assign(app);
    },
    "go elsewhere after a while": async (app, other) => {
      document.head.insertAdjacentHTML("beforeend", `<meta http-equiv=refresh content='0;url=${other}'>`);
    },
    "send a form elsewhere": async (app, other) => {
      const f = document.createElement("form");
      f.action = other;
      document.body.append(f);
      f.submit();
    },
  },
})
