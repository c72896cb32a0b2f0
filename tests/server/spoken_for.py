"""Every route that changes something, by the capability it asks for, and what it is sent in the tests of trust."""

from tests.server.conftest import post_in

# What each role may do, by operation; reading is for all.
WRITES = {
    "createPost",
    "addAsset",
    "describeAsset",
    "updatePost",
    "binPost",
    "restorePost",
    "createSet",
    "updateSet",
    "deleteSet",
    "moveMedia", "copyMedia", "labelMedia", "binMedia", "restoreMedia", "createFolder", "updateFolder", "removeFolder", "copyFolder", "importZip",
    "importFromStore", "createSnippet", "updateSnippet", "deleteSnippet", "createTagSet", "updateTagSet", "deleteTagSet", "createLinkTags",
    "updateLinkTags", "deleteLinkTags", "proposeWording", "hashtags", "insertTags", "readCard", "createDrafts", "restoreVersion", "duplicatePost",
    "createLabel", "updateLabel", "deleteLabel", "createCampaign", "updateCampaign", "deleteCampaign", "markPosts", "saveAlmanac",
    "createDate", "updateDate", "deleteDate", "inspectPlan", "requestSignoff", "withdrawSignoffRequest", "assignTask",
    "followFeed", "findFeeds", "importOpml", "updateFeed", "unfollowFeed", "pollFeed", "shareArticles", "putAway", "inspectCatalogue",
    "inspectCatalogueFile", "draftFiring", "moreStarters", "keepStarter", "discardStarter",
}  # fmt: skip # a table: a row to a line
PLANS = {
    "planPost", "moveDelivery", "unscheduleDelivery", "callOffDelivery", "retryDelivery", "resolveUncertain", "undo", "pause", "resume", "catchUp",
    "reportPublished", "reportNotPublished", "postponeByHand", "retryComment", "moveDeliveries", "callOffDeliveries", "times", "swapTimes", "previewBatch", "scheduleBatch",
    "importPlan", "retryDeliveries", "updateText",
    "createRota", "updateRota", "deleteRota", "addTurns", "reorderTurns", "updateTurn", "removeTurn", "addTurnWording", "removeTurnWording",
    "setPlacement", "swapPlacements", "addQuotations", "addTable",
    "createCatalogue", "createCatalogueFromFile", "updateCatalogue", "deleteCatalogue", "importCatalogueFile", "pollCatalogue", "createCatalogueEvent",
    "createRelay", "sampleRelay", "createFromStartingPoint", "updateRelay", "deleteRelay", "switchRelay", "answerFiring",
}  # fmt: skip # a table: a row to a line
DELETES = {"takeDown"}
MANAGES = {
    "connect", "setTimetable", "loadSheet", "createManualProfile", "describeProfile", "checkProfile", "disconnectProfile", "connectLinks", "createConnectLink",
    "revokeLink", "createStore", "deleteStore", "copyTimetable", "saveSpacing", "followZone", "saveRotaSlots",
}  # fmt: skip # a table: a row to a line
PEOPLES = {
    "updateBrand", "updateMember", "removeMember", "invite", "withdrawInvitation", "saveSignRules", "previewSignRules", "createSignLink", "revokeSignLink",
}  # fmt: skip # a table: a row to a line
SIGNS = {"approvePost", "approveAll", "sendBack", "pendingSignoffs"}
BY_LINK = {"signPage", "approveByLink", "approveAllByLink", "sendBackByLink", "remarkByLink"}
# What everyone who sees a brand may do.
TALKS = {"createRemark", "updateRemark", "deleteRemark", "resolveRemark", "completeTask", "watch", "saveReminder"}
EDITS = {"saveBrandSheet", "readBrandPage"}
ALL = DELETES | WRITES | PLANS | MANAGES | PEOPLES | SIGNS | EDITS
MAY_NOT = {
    "coordinator": set(),
    "author": ALL - WRITES,
    "approver": DELETES | PLANS | MANAGES | PEOPLES,
    "viewer": ALL,
}
ROLE_OF = {"coordinator": "ines", "author": "teo", "approver": "maud", "viewer": "lucia"}
BODIES = {
    "createPost": post_in(), "updatePost": post_in(), "describeAsset": {"alt": "x"}, "connect": {"network": "brisk"}, "setTimetable": {"slots": []},
    "planPost": {"when": {"kind": "now"}}, "moveDelivery": {"wall_time": "2027-01-01T12:00"}, "resolveUncertain": {"is_there": False},
    "check": {"master": {}, "columns": [{"network": "brisk"}]}, "createSet": {"name": "A", "profiles": []}, "updateSet": {"name": "A", "profiles": []},
    "loadSheet": {"toml": "format = 1"}, "createManualProfile": {"name": ""}, "disconnectProfile": {"then": "drafts"}, "catchUp": {"choice": "drafts"},
    "createConnectLink": {"display_name": "", "requested": []}, "updateBrand": {"name": "", "zone": "UTC"}, "updateMember": {"role": "author", "capabilities": []},
    "invite": {"email": "x", "role": "author", "capabilities": []}, "reportNotPublished": {"reason": "x"}, "postponeByHand": {"wall_time": "2027-01-01T12:00"},
    "readBrandPage": {"address": "nowhere"}, "pause": {"ends_at": "x"},
    **{key: {"ids": [1]} for key in ("moveMedia", "copyMedia", "labelMedia", "binMedia", "restoreMedia")}, "createDrafts": {"ids": [1]},
    **{key: {"name": ""} for key in ("createFolder", "updateFolder")}, "importFromStore": {"paths": ["x"]},
    **{key: {"name": "", "text": ""} for key in ("createSnippet", "updateSnippet")}, "createStore": {"name": "", "address": ""},
    **{key: {"name": "", "tags": []} for key in ("createTagSet", "updateTagSet")}, "readCard": {"link": ""}, "proposeWording": {"task": "vary"},
    **{key: {"name": ""} for key in ("createLinkTags", "updateLinkTags")}, "hashtags": {"text": ""}, "insertTags": {"text": "", "tags": []},
    "compare": {"before": "", "after": ""},
    **{key: {"name": "", "ink": "moss"} for key in ("createLabel", "updateLabel")}, "followZone": {"was": "UTC", "hold": "wall"},
    **{key: {"name": "", "starts_on": "2026-12-01", "ends_on": "2026-12-02", "ink": "moss"} for key in ("createCampaign", "updateCampaign")},
    "markPosts": {"posts": [1]}, "saveAlmanac": {"countries": ["XX"], "observances": True},
    **{key: {"name": "", "rule": "12-13"} for key in ("createDate", "updateDate")}, "moveDeliveries": {"moves": [{"id": 1, "revision": 1}]},
    "callOffDeliveries": {"deliveries": [1]}, "times": {"when": {"kind": "now"}}, "copyTimetable": {"profiles": [1]},
    "saveSpacing": {"max_gap_days": 4, "min_gap_minutes": 60, "min_repeat_days": 30, "waking_from": "23:00", "waking_until": "07:00"},
    "swapTimes": {"one": {"id": 1, "revision": 1}, "other": {"id": 2, "revision": 1}}, "saveView": {"name": "", "query": {}},
    "previewBatch": {"posts": [1], "timing": "slots", "first": "2026-12-01"}, "subscribe": {"profiles": 1},
    "scheduleBatch": {"rows": [{"post": 1, "profile": 1, "wall_time": "2027-01-01T12:00"}]},
    "saveSignRules": {"needed": True, "rules": [{"name": ""}]}, "previewSignRules": {"needed": True, "rules": [{"name": ""}]}, "createSignLink": {"display_name": ""}, "requestSignoff": {"posts": [{"id": 1, "revision": 1}]},
    "approveAll": {"posts": [{"id": 1, "revision": 1}]}, "retryDeliveries": {"deliveries": [{"id": 1, "revision": 1}]}, "sendBack": {"words": "x"}, "assignTask": {"user": 1}, "createRemark": {"text": ""},
    "updateRemark": {"text": "x"}, "resolveRemark": {"resolved": True}, "watch": {"on": True}, "approvePost": {},
    "applyFix": {"master": {}, "columns": [], "fix": "crop", "field": "text"},
    **{key: {"name": "", "ink": "moss", "profiles": []} for key in ("createRota", "updateRota")}, "reorderTurns": {"turns": []},
    "setPlacement": {"profile": 1, "at": "2027-01-01T12:00:00Z"}, "saveRotaSlots": {"weekdays": [1], "at": "09:00"}, "addQuotations": {"quotations": ["x"]},
    **{key: {"address": ""} for key in ("followFeed", "findFeeds", "inspectCatalogue")}, "updateFeed": {"title": ""},
    "shareArticles": {"articles": [999_999]}, "saveReminder": {"weekdays": []}, "createCatalogueEvent": {"kind": "lowered"},
    **{key: {"name": ""} for key in ("createCatalogue", "updateCatalogue")}, "switchRelay": {"active": False}, "answerFiring": {"yes": False}, "discardStarter": {"reason": "less"},
    **{key: {"source": {"key": "p1"}, "target": 1} for key in ("createRelay", "sampleRelay")},
    "createFromStartingPoint": {"cells": [{"source": {"key": "p1"}, "target": 1}]},
    "swapPlacements": {"one": {"profile": 1, "at": "2027-01-01T12:00:00Z"}, "other": {"profile": 2, "at": "2027-01-01T12:00:00Z"}},
}  # fmt: skip # a table: a row to a line

# What isn't there can't be told from what isn't one's own; of these there is none yet.
ABSENT = {
    "undo", "restorePost", "addAsset", "resume", "withdrawInvitation", "revokeLink", "deleteStore", "importFromStore", "restoreVersion",
    "revokeSignLink", "approveAll", "deleteRemark", "resolveRemark", "updateRemark", "completeTask",
}  # fmt: skip # a table: a row to a line
