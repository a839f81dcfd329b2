"""Words that Python and its standard library have taken, of all versions from 3.11 to 3.13.

Written down, for the running interpreter's own lists differ from version to version, and the output may not.
"""

HARD_KEYWORDS = frozenset(
    (
        "False None True and as assert async await break class continue def del elif else except finally for from global "
        "if import in is lambda nonlocal not or pass raise return try while with yield"
    ).split()
)
SOFT_KEYWORDS = frozenset(("case", "match"))  # `type` is one from 3.12 on; it is no trouble as a name
STANDARD_MODULES = frozenset(
    """
    abc aifc antigravity argparse array ast asynchat asyncio asyncore atexit audioop base64 bdb binascii
    bisect builtins bz2 cProfile calendar cgi cgitb chunk cmath cmd code codecs codeop collections
    colorsys compileall concurrent configparser contextlib contextvars copy copyreg crypt csv ctypes
    curses dataclasses datetime dbm decimal difflib dis distutils doctest email encodings ensurepip enum
    errno faulthandler fcntl filecmp fileinput fnmatch fractions ftplib functools gc genericpath getopt
    getpass gettext glob graphlib grp gzip hashlib heapq hmac html http idlelib imaplib imghdr imp
    importlib inspect io ipaddress itertools json keyword lib2to3 linecache locale logging lzma mailbox
    mailcap marshal math mimetypes mmap modulefinder msilib msvcrt multiprocessing netrc nis nntplib nt
    ntpath nturl2path numbers opcode operator optparse os ossaudiodev pathlib pdb pickle pickletools
    pipes pkgutil platform plistlib poplib posix posixpath pprint profile pstats pty pwd py_compile
    pyclbr pydoc pydoc_data pyexpat queue quopri random re readline reprlib resource rlcompleter runpy
    sched secrets select selectors shelve shlex shutil signal site smtpd smtplib sndhdr socket
    socketserver spwd sqlite3 sre_compile sre_constants sre_parse ssl stat statistics string stringprep
    struct subprocess sunau symtable sys sysconfig syslog tabnanny tarfile telnetlib tempfile termios
    textwrap this threading time timeit tkinter token tokenize tomllib trace traceback tracemalloc tty
    turtle turtledemo types typing unicodedata unittest urllib uu uuid venv warnings wave weakref
    webbrowser winreg winsound wsgiref xdrlib xml xmlrpc zipapp zipfile zipimport zlib zoneinfo
    """.split()
)
# The classes of `builtins` whose names could be those of products.
BUILTIN_CLASSES = frozenset(
    """
    ArithmeticError AssertionError AttributeError BaseException BaseExceptionGroup BlockingIOError
    BrokenPipeError BufferError BytesWarning ChildProcessError ConnectionAbortedError ConnectionError
    ConnectionRefusedError ConnectionResetError DeprecationWarning EOFError EncodingWarning
    EnvironmentError Exception ExceptionGroup FileExistsError FileNotFoundError FloatingPointError
    FutureWarning GeneratorExit IOError ImportError ImportWarning IndentationError IndexError
    InterruptedError IsADirectoryError KeyError KeyboardInterrupt LookupError MemoryError
    ModuleNotFoundError NameError NotADirectoryError NotImplementedError OSError OverflowError
    PendingDeprecationWarning PermissionError ProcessLookupError PythonFinalizationError RecursionError
    ReferenceError ResourceWarning RuntimeError RuntimeWarning StopAsyncIteration StopIteration
    SyntaxError SyntaxWarning SystemError SystemExit TabError TimeoutError TypeError UnboundLocalError
    UnicodeDecodeError UnicodeEncodeError UnicodeError UnicodeTranslateError UnicodeWarning UserWarning
    ValueError Warning ZeroDivisionError
    """.split()
)
