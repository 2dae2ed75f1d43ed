import { createBrowserRouter } from "react-router";

import { HorizonView } from "../horizon/HorizonView";
import { Waiting } from "../parts/Notice";
import { Lost } from "./Lost";
import { Shell } from "./Shell";

/** Each view has an address of its own; all but the first are loaded when visited. */
export const makeRouter = () =>
  createBrowserRouter([
    {
      path: "/",
      element: <Shell />,
      errorElement: <Lost />,
      hydrateFallbackElement: <Waiting what="Lodeline" />,
      // a view that fails does so inside the shell
      children: [
        {
          errorElement: <Lost />,
          children: [
            { index: true, element: <HorizonView /> },
            { path: "round", lazy: async () => ({ Component: (await import("../round/RoundView")).RoundView }) },
            { path: "log", lazy: async () => ({ Component: (await import("../logbook/LogbookView")).LogbookView }) },
            { path: "energy", lazy: async () => ({ Component: (await import("../energy/EnergyView")).EnergyView }) },
            { path: "water", lazy: async () => ({ Component: (await import("../water/WaterView")).WaterView }) },
            { path: "fuel", lazy: async () => ({ Component: (await import("../fuel/FuelView")).FuelView }) },
            { path: "stops", lazy: async () => ({ Component: (await import("../stops/StopsView")).StopsView }) },
            {
              path: "stops/tickets/:ticket",
              lazy: async () => ({ Component: (await import("../stops/TicketView")).TicketView }),
            },
            { path: "rig", lazy: async () => ({ Component: (await import("../rig/RigView")).RigView }) },
            { path: "review", lazy: async () => ({ Component: (await import("../review/ReviewView")).ReviewView }) },
            { path: "set-up", lazy: async () => ({ Component: (await import("../setup/SetUpView")).SetUpView }) },
            {
              path: "account",
              lazy: async () => ({ Component: (await import("../account/AccountView")).AccountView }),
            },
            { path: "more", lazy: async () => ({ Component: (await import("./MoreView")).MoreView }) },
            { path: "join", lazy: async () => ({ Component: (await import("../account/JoinView")).JoinView }) },
            { path: "*", element: <Lost /> },
          ],
        },
      ],
    },
  ]);
