import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { layTable, tableLook } from "./ui/table";
import "./index.css";

layTable(tableLook());

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
