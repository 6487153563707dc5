import { askFirst } from "./house/firstAsked";
import { placeNamed, scripts } from "./house/scripts";
import "./index.css";

// What is needed first, all at once: answers, the house, and the place in it. What fails is asked again, and said, by whoever shows it.
askFirst(window.location);
import("./begin").catch(() => {
  const words = document.createElement("p");
  words.setAttribute("role", "alert");
  words.textContent = "Froe could not be fetched. Check the connection and open this page again.";
  words.className = "p-6";
  document.body.append(words);
});
const place = placeNamed(window.location.pathname);
if (place) scripts[place]().catch(() => undefined);
// The first format of a page takes as long as the rest of its script: it is made while the rest is on its way. The bench is seen without.
if (place !== "bench") new Intl.DateTimeFormat("en-GB").format();
