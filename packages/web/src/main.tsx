import "./styles.css";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { App } from "./app.tsx";
import { startBuilding } from "./state/building.ts";
import { startChecking } from "./state/checking.ts";
import { startSaving } from "./state/saving.ts";
import { store } from "./state/store.ts";
import { presses } from "./ui/press.ts";

startBuilding();
startChecking();
startSaving();
presses.watch(window);

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <Provider store={store}>
      <App />
    </Provider>
  </StrictMode>,
);
