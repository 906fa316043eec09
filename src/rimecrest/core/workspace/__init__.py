"""One organisation's folder on disk, as an immutable value, and the edits that make the next one.

`open_workspace` reads a folder, `apply` makes an edit and its inverse, `Keeper` saves whole edits or nothing.
What a workspace holds stands in one table, `parts.PARTS`; new identities come from `fresh`.
"""

from typing import TYPE_CHECKING

from rimecrest.core.late import late_names

if TYPE_CHECKING:
    from rimecrest.core.workspace.edits import (
        Accept,
        Bind,
        Edit,
        MoveItems,
        MoveSurface,
        PutGroup,
        PutItems,
        PutPanel,
        PutTab,
        PutToolbar,
        Rebind,
        Restore,
        SetApplies,
        SetFields,
        Show,
        ShowAgain,
        TakeOff,
        Together,
        Unbind,
        apply,
    )
    from rimecrest.core.workspace.file_edits import (
        CarryMacro,
        NoLongerVouch,
        OwnMacro,
        PutCompanion,
        PutMacro,
        PutPicture,
        Vouch,
    )
    from rimecrest.core.workspace.folder import open_workspace, read_workspace
    from rimecrest.core.workspace.fresh import distinct, fresh_macro, fresh_thing
    from rimecrest.core.workspace.habits import Habits, OwnKey, UseCount, format_own_keys, format_use
    from rimecrest.core.workspace.keeper import ChangedMeanwhile, Keeper
    from rimecrest.core.workspace.layer_ids import MINE, ORGANISATION
    from rimecrest.core.workspace.macro_file import MacroFile
    from rimecrest.core.workspace.people import (
        Seat,
        format_people,
        parse_pasted_people,
        parse_people,
        perhaps_one,
    )
    from rimecrest.core.workspace.settings import LayerTitle, Maker, Settings
    from rimecrest.core.workspace.where_used import Use, uses
    from rimecrest.core.workspace.workspace import Workspace

__all__ = [
    "MINE",
    "ORGANISATION",
    "Accept",
    "Bind",
    "CarryMacro",
    "ChangedMeanwhile",
    "Edit",
    "Habits",
    "Keeper",
    "LayerTitle",
    "MacroFile",
    "Maker",
    "MoveItems",
    "MoveSurface",
    "OwnKey",
    "NoLongerVouch",
    "OwnMacro",
    "PutCompanion",
    "PutGroup",
    "PutItems",
    "PutMacro",
    "PutPanel",
    "PutPicture",
    "PutTab",
    "PutToolbar",
    "Rebind",
    "Restore",
    "Seat",
    "SetApplies",
    "SetFields",
    "Settings",
    "Show",
    "ShowAgain",
    "TakeOff",
    "Together",
    "Unbind",
    "Use",
    "UseCount",
    "Vouch",
    "Workspace",
    "apply",
    "distinct",
    "format_own_keys",
    "format_people",
    "format_use",
    "fresh_macro",
    "fresh_thing",
    "open_workspace",
    "parse_pasted_people",
    "parse_people",
    "perhaps_one",
    "read_workspace",
    "uses",
]

__getattr__ = late_names(
    __name__,
    {
        "edits": (
            "Accept Bind Edit MoveItems MoveSurface PutGroup PutItems PutPanel PutTab "
            "PutToolbar Rebind Restore SetApplies SetFields Show ShowAgain TakeOff Together "
            "Unbind apply"
        ),
        "file_edits": "CarryMacro NoLongerVouch OwnMacro PutCompanion PutMacro PutPicture Vouch",
        "folder": "open_workspace read_workspace",
        "fresh": "distinct fresh_macro fresh_thing",
        "habits": "Habits OwnKey UseCount format_own_keys format_use",
        "keeper": "ChangedMeanwhile Keeper",
        "people": "Seat format_people parse_pasted_people parse_people perhaps_one",
        "layer_ids": "MINE ORGANISATION",
        "settings": "LayerTitle Maker Settings",
        "where_used": "Use uses",
        "macro_file": "MacroFile",
        "workspace": "Workspace",
    },
)
