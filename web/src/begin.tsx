import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { askAhead } from "./house/askAhead";
import { queries } from "./house/queries";
import { layTable, tableLook } from "./ui/table";

layTable(tableLook());
void askAhead(queries, window.location).then(() =>
  createRoot(document.getElementById("root")!).render(
    <StrictMode>
      <App />
    </StrictMode>,
  ),
);
