"""What a workspace was before: kept beside it, shown on the stage, brought back whole or in part."""
