/* Preloaded: the n-th call of one kind that concerns a file of one folder fails, or ends the process.
 *
 * ATTACK_FOLDER, ATTACK_CALL (open, write, fsync, rename, unlink, link), ATTACK_NTH, ATTACK_ACTION (ENOSPC, EIO, EINTR,
 * KILL before the call, KILL-AFTER it). Every call that one name stands for is watched: "open" is openat as well. */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <signal.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/syscall.h>
#include <sys/types.h>
#include <unistd.h>

static int g_count;

static int in_folder(const char* path)
{
    const char* folder = getenv("ATTACK_FOLDER");
    return folder != NULL && path != NULL && strncmp(path, folder, strlen(folder)) == 0;
}

static int of_folder(int fd)
{
    char link[64], path[4096];
    snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
    const ssize_t size = readlink(link, path, sizeof path - 1);
    if (size <= 0)
        return 0;
    path[size] = '\0';
    return in_folder(path);
}

/* 0: nothing; 1: it fails with errno set; 2: it is done, then the process ends. */
static int due(const char* call)
{
    const char *wanted = getenv("ATTACK_CALL"), *nth = getenv("ATTACK_NTH"), *action = getenv("ATTACK_ACTION");
    if (wanted == NULL || nth == NULL || action == NULL || strcmp(wanted, call) != 0 || ++g_count != atoi(nth))
        return 0;
    const char* report = getenv("ATTACK_REPORT"); /* that it was tried at all */
    if (report != NULL)
        close((int)syscall(SYS_openat, AT_FDCWD, report, O_WRONLY | O_CREAT, 0600));
    if (strcmp(action, "KILL") == 0)
        kill(getpid(), SIGKILL);
    if (strcmp(action, "KILL-AFTER") == 0)
        return 2;
    errno = strcmp(action, "ENOSPC") == 0 ? ENOSPC : strcmp(action, "EINTR") == 0 ? EINTR : EIO;
    return 1;
}

#define NEXT(name) ((__typeof__(&name))dlsym(RTLD_NEXT, #name))
#define GUARD(call, concerns, done)                                                                                    \
    const int what = (concerns) ? due(call) : 0;                                                                       \
    if (what == 1)                                                                                                     \
        return -1;                                                                                                     \
    const __typeof__(done) result = done;                                                                              \
    if (what == 2)                                                                                                     \
        kill(getpid(), SIGKILL);                                                                                       \
    return result

static mode_t mode_of(int flags, va_list rest)
{
    return (flags & (O_CREAT | __O_TMPFILE)) != 0 ? va_arg(rest, mode_t) : 0;
}

#define OPEN(name)                                                                                                     \
    int name(const char* path, int flags, ...)                                                                         \
    {                                                                                                                  \
        va_list rest;                                                                                                  \
        va_start(rest, flags);                                                                                         \
        const mode_t mode = mode_of(flags, rest);                                                                      \
        va_end(rest);                                                                                                  \
        GUARD("open", in_folder(path), NEXT(name)(path, flags, mode));                                                 \
    }
OPEN(open)
OPEN(open64)

ssize_t write(int fd, const void* data, size_t size)
{
    GUARD("write", of_folder(fd), NEXT(write)(fd, data, size));
}

int fsync(int fd)
{
    GUARD("fsync", of_folder(fd), NEXT(fsync)(fd));
}

int rename(const char* from, const char* to)
{
    GUARD("rename", in_folder(to), NEXT(rename)(from, to));
}

int renameat2(int a, const char* from, int b, const char* to, unsigned flags)
{
    GUARD("rename", in_folder(to), NEXT(renameat2)(a, from, b, to, flags));
}

int unlink(const char* path)
{
    GUARD("unlink", in_folder(path), NEXT(unlink)(path));
}

int link(const char* from, const char* to)
{
    GUARD("link", in_folder(to), NEXT(link)(from, to));
}

int linkat(int a, const char* from, int b, const char* to, int flags)
{
    GUARD("link", in_folder(to), NEXT(linkat)(a, from, b, to, flags));
}
