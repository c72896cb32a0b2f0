"""Debian's Chromium as the stories, the pictures and the benchmarks start it, by Playwright."""

PROGRAM = "/usr/bin/chromium"

# Of two lists of features the last counts, so Playwright's own (1.65, chromiumSwitches) stands here too.
_OFF_BY_PLAYWRIGHT = [
    "AvoidUnnecessaryBeforeUnloadCheckSync",
    "DestroyProfileOnBrowserClose",
    "HttpsUpgrades",
    "HttpsFirstBalancedModeAutoEnable",
    "LensOverlay",
    "MediaRouter",
    "PaintHolding",
    "ThirdPartyStoragePartitioning",
    "AvoidCorsURLLoaderRestartOnRedirect",
    "OptimizationHints",
    "NetworkTimeServiceQuerying",
    "AimEnabled",
    "PreconnectToSearch",
]
# What drops down from the address bar is a page of Chromium's own, loaded for each window: a second of a core, seen by nobody.
_ADDRESS_BAR = ["WebUIOmniboxPopup", "WebUIOmniboxAimPopup", "WebUIOmniboxFullPopup"]

FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    f"--disable-features={','.join([*_OFF_BY_PLAYWRIGHT, *_ADDRESS_BAR])}",
]
