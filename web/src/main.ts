import { askFirst } from "./house/firstAsked";
import { placeNamed, scripts } from "./house/scripts";
import "./index.css";

// What is needed first, all at once: answers, the house, and the place in it. What fails is asked again, and said, by whoever shows it.
askFirst(window.location).catch(() => undefined);
void import("./begin");
const place = placeNamed(window.location.pathname);
if (place) scripts[place]().catch(() => undefined);
// The first format of a page takes as long as the rest of its script: it is made while the rest is on its way. The bench is seen without.
if (place !== "bench") new Intl.DateTimeFormat("en-GB").format();
