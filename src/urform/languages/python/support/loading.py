"""Makers that registries load when they are first asked for."""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module
from threading import RLock
from typing import Any, Generic, TypeVar

from .errors import RefusedError

T = TypeVar("T")


class LoadedMaker(Generic[T]):
    """A maker that is loaded at its first call: once, however many threads call.

    A loader that fails or gives no maker is called again at the next call.
    """

    def __init__(
        self,
        owner: str,
        base: type,
        loader: Callable[[], Callable[..., T]] | str,
    ) -> None:
        self._owner = owner
        self._base = base
        self._loader = _named(owner, loader) if isinstance(loader, str) else loader
        if not callable(self._loader):
            raise RefusedError(owner, "its loader cannot be called")
        self._alone = RLock()
        self._maker: Callable[..., T] | None = None

    def __call__(self, **fields: Any) -> T:
        maker = self._maker  # «#loaded#»
        if maker is None:
            with self._alone:  # «#alone#»
                maker = self._maker
                if maker is None:
                    self._maker = maker = self._checked(self._loader())  # «#load#»
        return maker(**fields)

    def _checked(self, given: Any) -> Callable[..., T]:
        is_maker = (
            issubclass(given, self._base)
            if isinstance(given, type)
            else callable(given)
        )
        if not is_maker:  # «#check#»
            raise RefusedError(self._owner, "its loader gives no maker")
        maker: Callable[..., T] = given
        return maker


def _named(owner: str, name: str) -> Callable[[], Any]:
    """The loader of `module:attribute`; the attribute may be one of a class in the module."""
    module, _, path = name.partition(":")
    if not module or not path:
        raise RefusedError(
            owner, f"{name!r} does not name its loader as module:attribute"
        )

    def load() -> Any:
        found: Any = import_module(module)
        for attribute in path.split("."):
            found = getattr(found, attribute)  # «#look#»
        return found

    return load
