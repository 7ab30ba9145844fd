import { lazy, type ReactNode, Suspense } from "react";
import { BrowserRouter, Link, Route, Routes } from "react-router";
import { ShelfPage } from "./pages/shelf/shelf-page.tsx";
import { PART_PLACES, placeOf } from "./part-places.ts";
import { ErrorBoundary } from "./ui/error-boundary.tsx";
import { useTheme } from "./ui/theme.ts";
import { prepareBuilds } from "./worker/build-client.ts";

const PLACES = PART_PLACES.map(({ path, read }) => ({ path, Page: lazy(read) }));
const LINKS = PART_PLACES.flatMap(({ path, link }) => (link ? [{ path, ...link }] : []));

const PartPages = lazy(() => {
  // A part's page is known by its address: it, and the worker that builds the part, are read beside what holds them.
  prepareBuilds();
  void placeOf(location.pathname)
    .read()
    .catch(() => undefined);
  return import("./pages/part/part-pages.tsx").then((m) => ({ default: m.PartPages }));
});

const StockPage = lazy(() => import("./pages/stock/stock-page.tsx").then((m) => ({ default: m.StockPage })));
const StudyPage = lazy(() => import("./pages/study/study-page.tsx").then((m) => ({ default: m.StudyPage })));

const HistoryPage = lazy(() =>
  import("./pages/history/history-page.tsx").then((m) => ({ default: m.HistoryPage })),
);

export function App() {
  useTheme();
  return (
    <ErrorBoundary>
      <BrowserRouter>
        <Routes>
          <Route path="/" element={<ShelfPage />} />
          <Route path="/parts/:id" element={<Opening page={<PartPages links={LINKS} />} />}>
            {PLACES.map(({ path, Page }) => (
              <Route
                key={path}
                index={path === ""}
                path={path || undefined}
                element={<Opening page={<Page />} />}
              />
            ))}
          </Route>
          <Route path="/parts/:id/history" element={<Opening page={<HistoryPage />} />} />
          {["/stock", "/stock/:section", "/stock/:section/:id"].map((path) => (
            <Route key={path} path={path} element={<Opening page={<StockPage />} />} />
          ))}
          <Route path="/study" element={<Opening page={<StudyPage />} />} />
          <Route path="*" element={<NoPage />} />
        </Routes>
      </BrowserRouter>
    </ErrorBoundary>
  );
}

const Opening = ({ page }: { page: ReactNode }) => (
  <Suspense fallback={<p className="p-8 text-quiet">Opening…</p>}>{page}</Suspense>
);

function NoPage() {
  return (
    <main className="mx-auto max-w-md p-12">
      <h1 className="mb-2 text-[18px] font-bold">There is no page here</h1>
      <Link
        className="font-semibold text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
        to="/"
      >
        To the Shelf
      </Link>
    </main>
  );
}
